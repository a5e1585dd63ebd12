import type { Locator, Page } from '@playwright/test';
import { chartNamed, expect, keysIn, leverNamed, mark, ownBoard, saved, test, word } from './fixtures';

const forty = '/show/one-route-among-forty';
const manyLines = 'Passengers by month, each route and fare';

/** For some lines of a chart, a point of the page that lies on that line and far from every other one. */
const pointsOnLines = (chart: Locator, atLeast: number) =>
  chart.evaluate((figure, least) => {
    const svg = figure.querySelector('[data-part~="plot"] svg')!;
    const box = svg.getBoundingClientRect();
    const lines = [...svg.querySelectorAll('[data-part~="strand"]')].map((strand) => ({
      series: strand.getAttribute('data-series')!,
      points: [
        ...strand
          .querySelector('[data-part~="stroke"]')!
          .getAttribute('d')!
          .matchAll(/([\d.]+) ([\d.]+)/g),
      ].map(([, x, y]) => [Number(x), Number(y)] as const),
    }));
    return lines.flatMap(({ series, points }) => {
      let best = { away: 0, x: 0, y: 0 };
      for (const [x, y] of points) {
        const away = Math.min(
          ...lines
            .filter((other) => other.series !== series)
            .flatMap((other) => other.points.map(([ox, oy]) => Math.hypot(ox - x, oy - y))),
        );
        if (away > best.away) best = { away, x, y };
      }
      return best.away >= least ? [{ series, x: box.x + best.x, y: box.y + best.y }] : [];
    });
  }, atLeast);

const litLines = (chart: Locator) =>
  chart
    .locator('[data-part~="strand"][data-state="lit"]')
    .evaluateAll((lines) => lines.map((line) => line.getAttribute('data-series')));

test('pointing at lines quickly lights each at once, on top and with its name, and leaves no trace', async ({
  page,
}) => {
  await page.goto(`${forty}?lines=`);
  const chart = chartNamed(page, manyLines);
  await expect(chart.locator('[data-part~="strand"][data-state="muted"]')).toHaveCount(42);
  const points = await pointsOnLines(chart, 6);
  expect(points.length).toBeGreaterThanOrEqual(5);
  for (let round = 0; round < 3; round++)
    for (const { series, x, y } of points) {
      await page.mouse.move(x, y);
      // What is there in the very next frame.
      expect(await litLines(chart)).toEqual([series]);
    }
  const { series } = points.at(-1)!;
  const last = chart.locator('[data-part~="strand"]').last();
  await expect(last).toHaveAttribute('data-series', series);
  await expect(chart.locator('[data-part~="name"]')).toHaveText([series]);
  await expect(chart.locator('figcaption')).toContainText(`1 of 42 routes and fares lit: ${series}`);
  const before = await chart.locator('[data-part~="plot"] svg').boundingBox();
  await page.mouse.move(640, 5);
  expect(await litLines(chart)).toEqual([]);
  await expect(chart.locator('[data-part~="cursor"]')).toHaveCSS('opacity', '0');
  expect(await chart.locator('[data-part~="plot"] svg').boundingBox()).toEqual(before);
  expect(new URL(page.url()).search).toBe('?lines=');
});

test('a line is taken from 24 px away; a click keeps it while the pointer is still there', async ({
  page,
}) => {
  await page.goto(`${forty}?lines=`);
  const chart = chartNamed(page, manyLines);
  await expect(chart.locator('[data-part~="strand"]')).toHaveCount(42);
  const top = (await pointsOnLines(chart, 6)).find(({ series }) => series === 'Quel – Ostrin · visitor')!;
  await page.mouse.move(top.x, top.y - 20);
  expect(await litLines(chart)).toEqual([top.series]);
  await page.mouse.move(top.x, top.y - 60);
  expect(await litLines(chart)).toEqual([]);
  await page.mouse.move(top.x, top.y - 10);
  await page.mouse.down();
  expect(await chart.locator('[data-part~="strand"][data-state="lit"]').getAttribute('data-look')).toContain(
    'ember',
  );
  await page.mouse.up();
  await page.mouse.move(640, 5);
  expect(await litLines(chart)).toEqual([top.series]);
  await expect(leverNamed(page, 'Kept lines')).toContainText('1 of 42');
});

test('the keyboard goes along a line and from line to line, and keeps the one it is on', async ({ page }) => {
  await page.goto(`${forty}?lines=`);
  const chart = chartNamed(page, manyLines);
  await expect(chart.locator('[data-part~="strand"]')).toHaveCount(42);
  const svg = chart.locator('[data-part~="plot"] svg');
  await svg.focus();
  await page.keyboard.press('ArrowRight');
  const active = () =>
    svg.evaluate(
      (element) =>
        document.getElementById(element.getAttribute('aria-activedescendant')!)!.getAttribute('aria-label')!,
    );
  const first = await active();
  expect(first).toMatch(/^Brask – Umbry · commuter pass, Feb 2019: /);
  await page.keyboard.press('ArrowUp');
  const second = await active();
  expect(second).toMatch(/, Feb 2019: /);
  expect(second.split(',')[0]).not.toBe(first.split(',')[0]);
  await page.keyboard.press(' ');
  await expect.poll(() => new URL(page.url()).searchParams.getAll('lines')).toEqual([second.split(',')[0]]);
  await expect(chart.locator('[data-part~="cursor"]')).toHaveAttribute('aria-selected', 'true');
  // The first one closes what is said of the point.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(leverNamed(page, 'Kept lines')).toContainText('0 of 42');
});

test('one of several series is shown in its own look, chosen by lever, line or name', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'one-route-among-forty');
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers a quarter, by fare');
  const lit = chart.locator('[data-part~="strand"][data-state="lit"]');
  await expect(lit).toHaveAttribute('data-look', /heather/);
  await leverNamed(page, 'Fare').getByRole('radio', { name: 'resident' }).click();
  await expect(lit).toHaveAttribute('data-series', 'resident');
  await expect(lit).toHaveAttribute('data-look', /kelp/);
  await chart.locator('[data-part~="name"]', { hasText: 'commuter pass' }).click();
  await expect(lit).toHaveAttribute('data-series', 'commuter pass');
  const axis = await chart.locator('[data-part~="tick"]').allTextContents();

  await chart.locator('[data-part~="chart-title"]').click();
  await word(page, 'Unlit marks: muted').click();
  await page.getByRole('radio', { name: /^not drawn/ }).click();
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="strand"][data-state="gone"]')).toHaveCount(2);
  await expect(chart.locator('[data-part~="strand"][data-state="gone"]').first()).toBeHidden();
  expect(await chart.locator('[data-part~="tick"]').allTextContents()).toEqual(axis);
  await expect(chart.locator('[data-part~="legend"]')).not.toContainText('the rest');
  await leverNamed(page, 'Fare').getByRole('radio', { name: 'all' }).click();
  await expect(chart.locator('[data-part~="strand"][data-state="plain"]')).toHaveCount(3);
});

/** The x at which the first lit piece of a look begins, and the last one ends, in px of the drawing. */
const piecesOf = (chart: Locator, look: string) =>
  chart.locator(`[data-part~="piece"][data-look~="${look}"]`).evaluateAll((paths) => {
    const xs = paths.flatMap((path) =>
      [...path.getAttribute('d')!.matchAll(/[ML]([\d.]+) /g)].map(([, x]) => Number(x)),
    );
    return { from: Math.min(...xs), to: Math.max(...xs) };
  });

test('a line is lit exactly from where the brushed stretch begins to where it ends', async ({ page }) => {
  await page.goto('/show/what-changed-after-the-new-pier');
  const chart = chartNamed(page, 'Passengers by day');
  const agrees = async () => {
    const brush = (await chart.locator('[data-part~="brush"]').boundingBox())!;
    const svg = (await chart.locator('[data-part~="plot"] svg').boundingBox())!;
    const { from, to } = await piecesOf(chart, 'ember');
    expect(Math.abs(svg.x + from - brush.x)).toBeLessThan(1.6);
    expect(Math.abs(svg.x + to - brush.x - brush.width)).toBeLessThan(1.6);
  };
  await expect(chart.locator('[data-part~="piece"][data-look~="ember"]').first()).toBeVisible();
  await agrees();
  const end = (await chart.locator('[data-part~="brush-end"][data-end="to"]').boundingBox())!;
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2);
  await page.mouse.down();
  await page.mouse.move(end.x + 70, end.y + 5, { steps: 6 });
  await agrees();
  await page.mouse.up();
  await agrees();
});

test('events part a line into stretches with looks of their own; a new one makes one more', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'what-changed-after-the-new-pier');
  await page.goto(`/boards/${id}?stretch=`);
  const chart = chartNamed(page, 'Passengers by month');
  await chart.locator('[data-part~="chart-title"]').click();
  await page.getByRole('combobox', { name: /Add a sentence/ }).fill('around the events');
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="mark"][data-look~="tide"]')).toHaveCount(5);
  const sentence = page.locator('[data-sentence="cue-stretches"]');
  await expect(sentence.getByRole('button', { name: /^Look:/ })).toHaveCount(5);
  await word(page, 'Events: 3 events').first().click();
  await page.getByRole('button', { name: '+ event' }).click();
  await page.getByRole('textbox', { name: 'Name of event 4' }).fill('the fare reform');
  await page.getByLabel('Date of the fare reform').fill('2023-07-01');
  await page.keyboard.press('Enter');
  await expect(sentence).toContainText('from the new pier to the fare reform');
  await expect(sentence.getByRole('button', { name: /^Look:/ })).toHaveCount(6);
  await sentence
    .getByRole('button', { name: /^Look:/ })
    .last()
    .click();
  await page.getByRole('radio', { name: 'amber' }).click();
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="mark"][data-look~="ochre"]')).toHaveCount(18);
  await expect(chart.locator('[data-part~="legend"]')).toContainText('from the fare reform on');
  await word(page, 'Stretches: each period').click();
  await page.getByRole('checkbox', { name: 'before the new timetable' }).uncheck();
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'muted')).toHaveLength(28);
  await saved(page);
  await page.reload();
  await expect(chart.locator('[data-part~="mark"][data-look~="ochre"]')).toHaveCount(18);
});

test('a chart is parted into series by saying so, ranks within them, and writes only lit figures', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}?routes=`);
  const chart = chartNamed(page, 'Passengers by route');
  await expect(mark(chart, 'Quel – Ostrin')).toBeVisible();
  const say = page.getByRole('combobox', { name: /Add a sentence/ });
  await say.fill('splits by fare');
  await page.keyboard.press('Enter');
  const parted = page.getByRole('figure').first();
  await expect(parted.locator('[data-part~="mark"]')).toHaveCount(42);
  await expect(parted.locator('[data-part~="legend"] button')).toHaveText([
    'commuter pass',
    'resident',
    'visitor',
  ]);
  await expect(parted.locator('[data-part~="mark"][data-series="visitor"]').first()).toHaveAttribute(
    'data-look',
    /heather/,
  );
  await say.fill('top or bottom');
  await page.keyboard.press('Enter');
  await page
    .locator('[data-sentence="cue-top"]')
    .getByRole('button', { name: /^Combine/ })
    .click();
  await page.getByRole('radio', { name: 'ranked within each series' }).click();
  await page.keyboard.press('Enter');
  await leverNamed(page, 'Count').getByRole('textbox').fill('1');
  await page.keyboard.press('Enter');
  await expect(parted.locator('[data-part~="mark"][data-state="lit"]')).toHaveCount(3);
  await say.fill('labels lit');
  await page.keyboard.press('Enter');
  await expect(
    parted.locator('[data-part~="mark"][data-state="muted"] [data-part~="value"]:visible'),
  ).toHaveCount(0);
  await expect(parted.locator('[data-part~="value"]:visible')).toHaveCount(3);
});

test('of two sentences that light a mark the first has the say; they are put in order by the keyboard too', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'what-changed-after-the-new-pier');
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by month');
  await chart.locator('[data-part~="chart-title"]').click();
  await page.getByRole('combobox', { name: /Add a sentence/ }).fill('around the events');
  await page.keyboard.press('Enter');
  const july = mark(chart, '2022-07-01');
  await expect(july).toHaveAttribute('data-look', /tide/);
  const handle = page.locator('[data-sentence="cue-stretches"]').getByRole('button', { name: /^Move:/ });
  await handle.focus();
  // What a screen reader hears tells when it is in hand, and when it has moved.
  const told = page.getByRole('status').filter({ hasText: /is (taken up|at the place of)/ });
  await page.keyboard.press(' ');
  await expect(told).toBeAttached();
  const before = await told.textContent();
  // The list measures itself before it obeys: a key that comes sooner than any hand could is pressed again.
  await expect(async () => {
    await page.keyboard.press('ArrowUp');
    expect(await told.textContent()).not.toBe(before);
  }).toPass();
  await page.keyboard.press(' ');
  await expect(july).toHaveAttribute('data-look', /kelp/);
  await expect(july).toHaveAttribute('data-look', /outline/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(july).toHaveAttribute('data-look', /tide/);
});

const mutedTone = (page: Page) =>
  page
    .locator('[data-part~="strand"][data-state="muted"] [data-part~="stroke"]')
    .first()
    .evaluate((line) => getComputedStyle(line).stroke);

test('how pale what is muted is can be said for one chart and for the board', async ({ page, request }) => {
  const id = await ownBoard(request, 'one-route-among-forty');
  await page.goto(`/boards/${id}`);
  await expect(page.locator('[data-part~="strand"]').first()).toBeAttached();
  const usual = await mutedTone(page);
  await word(page, /^Muted tone/).click();
  await page
    .getByRole('radiogroup', { name: 'Tone on the board' })
    .getByRole('radio', { name: 'strong' })
    .click();
  const firm = await mutedTone(page);
  expect(firm).not.toBe(usual);
  await expect(page.locator('[data-part~="plot"] svg[data-tone="firm"]')).toHaveCount(3);
  await page
    .getByRole('radiogroup', { name: 'Tone on this chart' })
    .getByRole('radio', { name: 'light' })
    .click();
  expect(await mutedTone(page)).not.toBe(firm);
  await page.keyboard.press('Escape');
  expect(await mutedTone(page)).toBe(usual);
});

test('with nothing picked a position can stand in, and says so', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}?routes=Harl – Vemmen`);
  const chart = chartNamed(page, 'Passengers by route');
  await expect(mark(chart, 'Harl – Vemmen')).toHaveAttribute('data-state', 'lit');
  await word(page, 'While nothing is set: all plain').click();
  await page.getByRole('radio', { name: /as with Harl – Vemmen/ }).click();
  await page.keyboard.press('Enter');
  await leverNamed(page, 'Routes').getByRole('button', { name: 'none' }).click();
  expect(await keysIn(chart, 'lit')).toEqual(['Harl – Vemmen']);
  await expect(chart.locator('[data-part~="legend"]')).toContainText('the default');
  await saved(page);
});
