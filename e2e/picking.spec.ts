import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import {
  allKeys,
  chartNamed,
  expect,
  importCsv,
  keysIn,
  leverNamed,
  mark,
  ownBoard,
  test,
  word,
} from './fixtures';

const title = 'Passengers by route';

test('a click lights a mark in its own frame, and nothing but a click changes it', async ({ page }) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=');
  const chart = chartNamed(page, title);
  await expect(mark(chart, 'Harl – Vemmen')).toHaveAttribute('data-state', 'plain');
  // What is there once the pointer is down and before anything else can happen.
  const seen = await page.evaluate(() => {
    const target = document.querySelector('[data-key="Harl – Vemmen"] rect')!;
    const box = target.getBoundingClientRect();
    const at = {
      clientX: box.x + 4,
      clientY: box.y + box.height / 2,
      bubbles: true,
      button: 0,
      pointerId: 1,
      pointerType: 'mouse',
    };
    const svg = target.closest('svg')!;
    svg.setPointerCapture = () => {};
    svg.dispatchEvent(new PointerEvent('pointerdown', at));
    const states = [...document.querySelectorAll('[data-key]')].map((each) =>
      each.getAttribute('data-state'),
    );
    const fill = getComputedStyle(target).fill;
    svg.dispatchEvent(new PointerEvent('pointerup', at));
    return { state: target.parentElement!.dataset.state, states: states.slice(0, 14), fill };
  });
  expect(seen.state).toBe('lit');
  expect(seen.states.filter((state) => state === 'muted')).toHaveLength(13);
  expect(seen.fill).toBe('rgb(159, 59, 24)');

  await mark(chart, 'Quel – Ilvoe').locator('rect').first().hover();
  await page.mouse.move(640, 5);
  expect(await keysIn(chart, 'lit')).toEqual(['Harl – Vemmen']);
});

test('click replaces, Ctrl adds and takes away, Shift and dragging stretch, empty ground clears', async ({
  page,
}) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=');
  const chart = chartNamed(page, title);
  await expect(mark(chart, 'Harl – Vemmen')).toBeVisible();
  const order = await allKeys(chart);
  const bar = (i: number) => mark(chart, order[i]!).locator('rect').first();
  await bar(1).click({ position: { x: 5, y: 5 } });
  await bar(3).click({ position: { x: 5, y: 5 } });
  expect(await keysIn(chart, 'lit')).toEqual([order[3]]);
  await bar(1).click({ position: { x: 5, y: 5 }, modifiers: ['Control'] });
  expect(await keysIn(chart, 'lit')).toEqual([order[1], order[3]]);
  await bar(3).click({ position: { x: 5, y: 5 }, modifiers: ['Control'] });
  expect(await keysIn(chart, 'lit')).toEqual([order[1]]);
  await bar(1).click({ position: { x: 5, y: 5 } });
  await bar(4).click({ position: { x: 5, y: 5 }, modifiers: ['Shift'] });
  expect(await keysIn(chart, 'lit')).toEqual(order.slice(1, 5));

  const from = (await bar(6).boundingBox())!;
  const to = (await bar(8).boundingBox())!;
  await page.mouse.move(from.x + 3, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(to.x + 3, to.y + 5, { steps: 6 });
  expect(await keysIn(chart, 'lit')).toEqual(order.slice(6, 9));
  await page.mouse.up();

  const ground = (await chart.getByRole('listbox').boundingBox())!;
  const last = (await bar(13).boundingBox())!;
  await page.mouse.click(ground.x + ground.width - 10, last.y + 5);
  expect(await keysIn(chart, 'plain')).toEqual(order);
});

test('the chart is a listbox to the keyboard', async ({ page }) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=');
  const chart = chartNamed(page, title);
  await expect(mark(chart, 'Harl – Vemmen')).toBeVisible();
  const order = await allKeys(chart);
  const listbox = chart.getByRole('listbox');
  await listbox.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  expect(await keysIn(chart, 'lit')).toEqual([order[1]]);
  await expect(chart.getByRole('option', { selected: true })).toHaveAccessibleName(
    new RegExp(`^${order[1]}: [\\d,]+$`),
  );
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  expect(await keysIn(chart, 'lit')).toEqual(order.slice(1, 4));
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'lit')).toEqual([order[13]]);
  await page.keyboard.press('Control+a');
  expect(await keysIn(chart, 'lit')).toEqual(order);
  // The first closes what is said of the mark.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  expect(await keysIn(chart, 'lit')).toEqual([]);
});

test('the list picks, searches, inverts, and goes by keyboard alone', async ({ page }) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=');
  const chart = chartNamed(page, title);
  const lever = leverNamed(page, 'Routes');
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('skarrow');
  await expect(lever.getByRole('option')).toHaveCount(2);
  await lever.getByRole('button', { name: 'Pick all found' }).click();
  expect((await keysIn(chart, 'lit')).sort()).toEqual(['Harl – Skarrow', 'Skarrow – Aldsey']);
  await expect(chart.locator('figcaption')).toContainText('2 of 14 routes lit: Harl – Skarrow (');
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('');
  await lever.getByRole('button', { name: 'invert' }).click();
  expect(await keysIn(chart, 'lit')).toHaveLength(12);
  await lever.getByRole('button', { name: 'none' }).click();
  await expect(lever).toContainText('0 of 14');
  // From the search line: arrows lead through what was found, Enter picks and picks off.
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('aldsey skarrow');
  await expect(lever.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'lit')).toEqual(['Skarrow – Aldsey']);
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'lit')).toEqual([]);
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('');
  await lever.getByRole('listbox').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  expect(await keysIn(chart, 'lit')).toHaveLength(1);
  await lever.getByRole('button', { name: 'reset' }).click();
  expect((await keysIn(chart, 'lit')).sort()).toEqual(['Harl – Skarrow', 'Quel – Ostrin']);
});

test('filtering asks the server nothing, and the address brings back what was seen', async ({ page }) => {
  await page.goto('/show/which-routes-carry-the-sound');
  const chart = chartNamed(page, title);
  const byYear = chartNamed(page, 'Passengers by year');
  await expect(mark(byYear, '2022-01-01')).toBeVisible();
  const figure = () => mark(chart, 'Quel – Ostrin').locator('[data-part~="value"]').textContent();
  const before = await figure();
  const asked: string[] = [];
  // That it follows its data is no question.
  page.on('request', (request) => /\/api\/(?!changes)/.test(request.url()) && asked.push(request.url()));
  await mark(byYear, '2022-01-01').locator('rect').first().click();
  expect(await figure()).not.toBe(before);
  await expect(chart.locator('figcaption')).toContainText('Only rows of 2022. 2 of 14 routes lit');
  expect(asked).toEqual([]);
  await expect(page).toHaveURL(/\?years=2022-01-01$/);
  const seen = await figure();
  await page.reload();
  await expect(mark(chart, 'Quel – Ostrin').locator('[data-part~="value"]')).toHaveText(seen!);
  expect(await keysIn(byYear, 'lit')).toEqual(['2022-01-01']);
});

test('a link with values that are gone says so', async ({ page }) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=Quel+–+Atlantis&routes=Quel+–+Ostrin');
  await expect(leverNamed(page, 'Routes')).toContainText('Not in the data, ignored: Quel – Atlantis.');
  expect(await keysIn(chartNamed(page, title), 'lit')).toEqual(['Quel – Ostrin']);
});

test('one word turns lighting into filtering, another what clearing and resting do', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, title);
  await expect(mark(chart, 'Quel – Ostrin')).toHaveAttribute('data-state', 'lit');
  await word(page, 'What it does: Lights').click();
  await page.getByRole('radio', { name: /Filters to/ }).click();
  await expect(chart.locator('[data-key]')).toHaveCount(2);
  await page.keyboard.press('Escape');
  await expect(chart.locator('[data-key]')).toHaveCount(14);

  await word(page, 'While nothing is set: all plain').click();
  await page.getByRole('radio', { name: 'all muted' }).click();
  await page.keyboard.press('Enter');
  await leverNamed(page, 'Routes').getByRole('button', { name: 'none' }).click();
  expect(await keysIn(chart, 'muted')).toHaveLength(14);

  await word(page, 'When cleared: clears it').click();
  await page.getByRole('radio', { name: 'resets it to its start' }).click();
  await page.keyboard.press('Enter');
  const svg = (await chart.getByRole('listbox').boundingBox())!;
  const last = (await mark(chart, 'Corvane – Nemmick').boundingBox())!;
  await page.mouse.click(svg.x + svg.width - 5, last.y + 5);
  expect((await keysIn(chart, 'lit')).sort()).toEqual(['Harl – Skarrow', 'Quel – Ostrin']);
});

test('a pick writes only to the marks it changes, in one go, and a hover writes nothing', async ({
  page,
}) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=Quel+–+Ostrin');
  const chart = chartNamed(page, title);
  await expect(mark(chart, 'Quel – Ostrin')).toHaveAttribute('data-state', 'lit');
  await page.evaluate(() => {
    const seen = { touched: new Set<string>(), batches: 0 };
    new MutationObserver((records) => {
      seen.batches++;
      for (const record of records)
        seen.touched.add((record.target as Element).closest('[data-key]')?.getAttribute('data-key') ?? '?');
    }).observe(document.querySelector('svg[role=listbox] > [data-part~="marks"]')!, {
      attributes: true,
      childList: true,
      characterData: true,
      subtree: true,
    });
    Object.assign(window, { seen });
  });
  const seen = () =>
    page.evaluate(() => {
      const { touched, batches } = (window as unknown as { seen: { touched: Set<string>; batches: number } })
        .seen;
      return { touched: [...touched].sort(), batches };
    });
  for (const key of ['Harl – Vemmen', 'Ilvoe – Fennow', 'Quel – Ilvoe'])
    await mark(chart, key)
      .locator('rect')
      .first()
      .hover({ position: { x: 3, y: 3 } });
  expect(await seen()).toEqual({ touched: [], batches: 0 });
  await mark(chart, 'Ostrin – Tarsk')
    .locator('rect')
    .first()
    .click({ position: { x: 5, y: 5 } });
  expect(await seen()).toEqual({ touched: ['Ostrin – Tarsk', 'Quel – Ostrin'], batches: 1 });
});

test('two levers on two charts: one touch lights here and filters there', async ({ page }) => {
  await page.goto('/show/when-is-the-sound-busiest');
  const months = chartNamed(page, 'Passengers by month');
  const late = chartNamed(page, 'Minutes late, by vessel, in those months');
  await expect(months.locator('[data-key]')).toHaveCount(72);
  expect(await keysIn(months, 'lit')).toEqual(['2022-01-01', '2022-02-01']);
  const stormy = await late.locator('[data-part~="value"]').allTextContents();
  const summer = mark(months, '2023-08-01').locator('rect').first();
  await summer.click();
  expect(await keysIn(months, 'lit')).toEqual(['2023-08-01']);
  await expect(late.locator('figcaption')).toContainText('Only rows of Aug 2023.');
  expect(await late.locator('[data-part~="value"]').allTextContents()).not.toEqual(stormy);
  expect(await keysIn(late, 'plain')).toHaveLength(9);
  // Clearing this lever goes back to where it starts.
  const svg = (await months.getByRole('listbox').boundingBox())!;
  const short = (await mark(months, '2022-02-01').locator('rect').first().boundingBox())!;
  await page.mouse.click(short.x + 2, svg.y + 40);
  expect(await keysIn(months, 'lit')).toEqual(['2022-01-01', '2022-02-01']);
});

test('what a lever lights comes into sight, and the edges say how much more is lit beyond them', async ({
  page,
  request,
}) => {
  const quays = Array.from({ length: 120 }, (_, i) => `quay ${String(i).padStart(3, '0')}`);
  const rows = quays.map((quay, i) => `${quay},${500 - i}`);
  const dataset = await importCsv(request, 'Many quays', `quay,n\n${rows.join('\n')}\n`);
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Many quays',
        levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
        charts: [
          plainChart(dataset, {
            by: { field: 'quay' },
            measure: { aggregate: 'sum', field: 'n' },
            cues: [plainCue('light', 'quays', { colour: 'ember' })],
            touches: [{ gesture: 'click', lever: 'quays' }],
          }),
        ],
      },
    },
  });
  await page.goto(`/show/${(await made.json()).id}`);
  const chart = page.getByRole('figure');
  const lever = leverNamed(page, 'Quays');
  await expect(mark(chart, 'quay 000')).toBeInViewport();
  const edges = chart.locator('[data-part~="edges"]');
  await expect(edges).toHaveAttribute('data-more', 'after');
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('119');
  await page.keyboard.press('Enter');
  await expect(mark(chart, 'quay 119').locator('[data-part~="bar"]')).toBeInViewport();
  // A second one, far above: the first stays in sight, and the edge says where the other is.
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('003');
  await page.keyboard.press('Enter');
  await expect(mark(chart, 'quay 119').locator('[data-part~="bar"]')).toBeInViewport();
  await chart.getByRole('button', { name: '1 more lit above: show' }).click();
  await expect(mark(chart, 'quay 003').locator('[data-part~="bar"]')).toBeInViewport();
  await expect(chart.getByRole('button', { name: '1 more lit below: show' })).toBeVisible();
  await expect(edges).toHaveAttribute('data-more', /after/);
  // A touch never moves the plot.
  const before = await mark(chart, 'quay 005').boundingBox();
  await mark(chart, 'quay 005').locator('[data-part~="bar"]').click();
  expect((await mark(chart, 'quay 005').boundingBox())!.y).toBe(before!.y);
  // What is picked stands first in its list, when it is looked at anew.
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('');
  await expect(page).toHaveURL(/quays=quay.005$/);
  await page.reload();
  await expect(lever.getByRole('option').first()).toHaveText(/quay 005/);
});
