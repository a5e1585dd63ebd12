import type { Locator, Page } from '@playwright/test';
import { plainChart } from '@sorvik/core/testing/documents';
import { allKeys, chartNamed, expect, importCsv, keysIn, leverNamed, mark, test } from './fixtures';

const leaders = '/show/who-leads-who-trails';
const corridor = '/show/where-do-we-leave-the-corridor';
const pier = '/show/what-changed-after-the-new-pier';
const param = (page: Page, name: string) => new URL(page.url()).searchParams.get(name);
const params = (page: Page, name: string) => new URL(page.url()).searchParams.getAll(name);

/** Drags from one point to another in steps, and lets go there. */
async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }) {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
}
const middle = async (element: Locator) => {
  const box = (await element.boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, box };
};
const lit = (chart: Locator) => keysIn(chart, 'lit');

test.describe('a number', () => {
  test('slides, steps and is typed; what it feeds follows', async ({ page }) => {
    await page.goto(leaders);
    const chart = page.getByRole('figure').first();
    const lever = leverNamed(page, 'Count');
    const slider = lever.getByRole('slider');
    await expect(slider).toHaveAttribute('aria-valuenow', '3');
    await expect(chart.locator('[data-state="lit"]')).toHaveCount(3);
    const order = await allKeys(chart);
    expect(await lit(chart)).toEqual(order.slice(0, 3));

    await slider.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowUp');
    await expect(chart.locator('[data-state="lit"]')).toHaveCount(5);
    await page.keyboard.press('Home');
    await expect(chart.locator('figcaption')).toHaveText('0 of 14 routes lit (the count is 0).');
    await page.keyboard.press('End');
    await expect(slider).toHaveAttribute('aria-valuenow', '14');
    await page.keyboard.press('PageDown');
    await expect(slider).toHaveAttribute('aria-valuenow', '13');

    const track = await middle(lever.locator('[data-part~="slider-track"]'));
    await drag(page, await middle(slider), { x: track.box.x + track.box.width * 0.5, y: track.y });
    await expect(slider).toHaveAttribute('aria-valuenow', '7');
    await expect(chart.locator('[data-state="lit"]')).toHaveCount(7);

    const typed = lever.getByRole('textbox', { name: 'Count, typed' });
    await typed.fill('20');
    await typed.press('Enter');
    await expect(lever).toContainText('20 is above the maximum of 14; set to 14.');
    await typed.fill('1,0');
    await typed.press('Enter');
    await expect(slider).toHaveAttribute('aria-valuenow', '1');
    await expect(lever).not.toContainText('maximum');
    await typed.fill('many');
    await typed.press('Enter');
    await expect(lever).toContainText('Not a number');
    await expect(slider).toHaveAttribute('aria-valuenow', '1');
  });

  test('places the line it feeds, and is moved by it: by pointer and by keys', async ({ page }) => {
    await page.goto(leaders);
    const chart = page.getByRole('figure').nth(1);
    const handle = chart.getByRole('slider', { name: /Late from/ });
    await expect(handle).toHaveAttribute('aria-valuetext', '4.3 min');
    const before = await middle(handle);
    await drag(page, { x: before.x, y: before.y }, { x: before.x, y: before.y + 120 });
    const moved = Number(await handle.getAttribute('aria-valuenow'));
    expect(moved).toBeLessThan(4);
    await expect(leverNamed(page, 'Late from').getByRole('slider')).toHaveAttribute(
      'aria-valuenow',
      String(moved),
    );
    await expect(chart.locator('[data-state="lit"]')).toHaveCount(9);
    await handle.focus();
    await page.keyboard.press('ArrowUp');
    await expect(handle).toHaveAttribute('aria-valuenow', String(Number((moved + 0.1).toFixed(1))));
    await page.keyboard.press('End');
    await expect(chart.locator('[data-state="lit"]')).toHaveCount(0);
  });
});

test('a switch turns sentences on and off, by pointer and by Space', async ({ page }) => {
  await page.goto(`${leaders}?limit=1`);
  const chart = page.getByRole('figure').nth(1);
  const toggle = page.getByRole('switch');
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(9);
  await toggle.click();
  await expect(toggle).toHaveAttribute('aria-checked', 'false');
  await expect(toggle).toContainText('not looked at');
  await expect(chart.locator('[data-state="plain"]')).toHaveCount(9);
  await expect(chart.getByRole('slider')).toHaveCount(0);
  await toggle.press('Space');
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(9);
});

test('a choice of a few is a radio group; of many, a list that is searched; it can stand in a title', async ({
  page,
}) => {
  await page.goto(leaders);
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(3);
  const order = await allKeys(chart);
  await page.getByRole('radio', { name: 'highest' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('radio', { name: 'lowest' })).toHaveAttribute('aria-checked', 'true');
  // The last two carry the very same figures.
  expect(await lit(chart)).toEqual(order.slice(-3));

  const inTitle = chart.getByRole('button', { name: 'Year: all' });
  await inTitle.focus();
  await page.keyboard.press('Enter');
  const search = page.getByRole('combobox', { name: 'Find in Year' });
  await search.fill('202');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(chart.getByRole('button', { name: 'Year: 2021' })).toBeFocused();
  await expect(chart.locator('figcaption')).toContainText('Only rows of 2021.');
  await expect.poll(() => params(page, 'year')).toEqual(['2021-01-01']);
  await expect(page.getByRole('figure').nth(1)).toHaveAccessibleName(/Year: 2021|2021/);

  await chart.getByRole('button', { name: 'Year: 2021' }).click();
  await page.getByRole('option', { name: 'all' }).click();
  await expect(chart.locator('figcaption')).not.toContainText('Only rows');
});

test.describe('limits', () => {
  test('push each other on the slider, and are typed with % or without', async ({ page }) => {
    await page.goto(corridor);
    const lever = leverNamed(page, 'Corridor');
    const low = lever.getByRole('slider', { name: 'Corridor, lower limit' });
    const high = lever.getByRole('slider', { name: 'Corridor, upper limit' });
    await low.focus();
    await page.keyboard.press('ArrowRight');
    await expect(low).toHaveAttribute('aria-valuenow', '61000');
    await page.keyboard.press('End');
    await expect(low).toHaveAttribute('aria-valuenow', '200000');
    await expect(high).toHaveAttribute('aria-valuenow', '200000');

    const shares = leverNamed(page, 'Shares of the range');
    const lowest = shares.getByRole('slider', { name: /lower/ });
    await lowest.focus();
    await page.keyboard.press('End');
    // These stop where they meet.
    await expect(lowest).toHaveAttribute('aria-valuetext', '80%');
    await expect(shares.getByRole('slider', { name: /upper/ })).toHaveAttribute('aria-valuetext', '80%');
    const box = shares.getByRole('textbox', { name: /lower limit, typed/ });
    await box.fill('12,5%');
    await box.press('Enter');
    await expect(lowest).toHaveAttribute('aria-valuetext', '12.5%');
    await expect(box).toHaveValue('12.5%');
    await box.fill('15%');
    await box.press('Enter');
    await expect(lowest).toHaveAttribute('aria-valuetext', '15%');
    await box.fill('0.2');
    await box.press('Enter');
    await expect(lowest).toHaveAttribute('aria-valuetext', '20%');
    await box.fill('150%');
    await box.press('Enter');
    await expect(shares).toContainText('150% is above the maximum of 100%');
  });

  test('are dragged as lines in the plot; what is lit agrees with them', async ({ page }) => {
    await page.goto(corridor);
    const chart = chartNamed(page, 'Passengers by month');
    const upper = chart.getByRole('slider', { name: /upper limit, line on the plot/ });
    const start = await middle(upper);
    const summer = (await mark(chart, '2023-06-01').locator('[data-part~="bar"]').boundingBox())!;
    await drag(page, start, { x: start.x, y: summer.y });
    const limit = Number(await upper.getAttribute('aria-valuenow'));
    expect(limit % 1000).toBe(0);
    await expect(leverNamed(page, 'Corridor').getByRole('slider', { name: /upper/ })).toHaveAttribute(
      'aria-valuenow',
      String(limit),
    );
    // Lit above: bars whose head reaches the line.
    const line = await middle(upper);
    const heads = await chart
      .locator('[data-part~="mark"][data-look~="ember"] [data-part~="bar"]')
      .evaluateAll((bars) => bars.map((bar) => bar.getBoundingClientRect().top));
    expect(heads.length).toBeGreaterThan(0);
    for (const head of heads) expect(head).toBeLessThanOrEqual(line.y + 1);
  });
});

test.describe('a span', () => {
  const strip = (page: Page) => chartNamed(page, 'Passengers by month');
  test('is brushed, moved, resized and cleared on the chart', async ({ page }) => {
    await page.goto(`${pier}?stretch=`);
    const chart = strip(page);
    await expect(mark(chart, '2020-03-01')).toHaveAttribute('data-state', 'plain');
    await chart.scrollIntoViewIfNeeded();
    const bar = async (key: string) => (await mark(chart, key).locator('[data-part~="bar"]').boundingBox())!;
    const from = await bar('2020-03-01');
    const to = await bar('2020-06-01');
    const y = from.y - 8;
    await drag(page, { x: from.x + 1, y }, { x: to.x + to.width - 1, y });
    await expect.poll(() => lit(chart)).toEqual(['2020-03-01', '2020-04-01', '2020-05-01', '2020-06-01']);
    await expect.poll(() => param(page, 'stretch')).toMatch(/^2020-03-0\d\.\.2020-06-[23]\d$/);
    await expect(chartNamed(page, 'Passengers by route in that stretch').locator('figcaption')).toContainText(
      'Only rows of',
    );

    const brush = chart.locator('[data-part~="brush"]');
    const held = await middle(brush);
    await drag(page, { x: held.x, y: held.box.y + 6 }, { x: held.x + to.x - from.x, y: held.box.y + 6 });
    await expect.poll(async () => (await lit(chart))[0]).toMatch(/^2020-0[67]-01$/);
    const length = (await lit(chart)).length;

    const end = chart.getByRole('slider', { name: 'Stretch, to, on the plot' });
    const grip = await middle(end);
    await drag(page, grip, { x: grip.x + (to.x - from.x), y: grip.y });
    await expect.poll(async () => (await lit(chart)).length).toBeGreaterThan(length + 1);
    await end.focus();
    const before = Number(await end.getAttribute('aria-valuenow'));
    await page.keyboard.press('ArrowLeft');
    await expect(end).toHaveAttribute('aria-valuenow', String(before - 1));

    const now = await middle(brush);
    await page.mouse.dblclick(now.x, now.box.y + 6);
    await expect(chart.locator('[data-state="plain"]')).toHaveCount(72);
    await expect(brush).toBeHidden();
  });

  test('is set by dates, by keys, by usual stretches, and says what lies outside the data', async ({
    page,
  }) => {
    await page.goto(pier);
    const lever = leverNamed(page, 'Stretch');
    const from = lever.getByRole('textbox', { name: 'Stretch, from, typed' });
    await from.fill('1 Aug 2022');
    await from.press('Enter');
    await expect(lever.getByRole('slider', { name: 'Stretch, from' })).toHaveAttribute(
      'aria-valuetext',
      '1 Aug 2022',
    );
    await lever.getByRole('slider', { name: 'Stretch, to' }).focus();
    await page.keyboard.press('ArrowRight');
    await expect(lever).toContainText('1 Aug 2022 – 1 Sept 2022');
    await lever.getByRole('button', { name: 'last 30 days' }).click();
    await expect(lever).toContainText('2 Dec 2024 – 31 Dec 2024');
    await from.fill('2017-05-05');
    await from.press('Enter');
    await expect(lever).toContainText('The data runs from 1 Jan 2019 – 31 Dec 2024: cut to that.');
    await from.fill('soon');
    await from.press('Enter');
    await expect(lever).toContainText('Not a date');
    await lever.getByRole('button', { name: 'nothing' }).click();
    await expect(strip(page).locator('[data-state="plain"]')).toHaveCount(72);
  });
});

test('a window steps, pages, drags and wheels; the last page is full; it says what is in view', async ({
  page,
}) => {
  await page.goto(pier);
  const lever = leverNamed(page, 'Days in view');
  const bar = lever.getByRole('scrollbar');
  const chart = chartNamed(page, 'Passengers by day');
  await expect(lever).toContainText('1 Jan 2022 – 31 Dec 2022 · 365 of 2,192 days');
  await lever.getByRole('button', { name: /one day on/ }).click();
  await expect(lever).toContainText('2 Jan 2022 – 1 Jan 2023');
  await bar.focus();
  await page.keyboard.press('PageDown');
  await expect(lever).toContainText('2 Jan 2023 – 1 Jan 2024');
  await page.keyboard.press('End');
  await expect(lever).toContainText('2 Jan 2024 – 31 Dec 2024');
  await expect(chart.locator('figcaption')).toContainText('2 Jan 2024 – ');
  await expect(lever.getByRole('button', { name: /one day on/ })).toBeDisabled();
  await page.keyboard.press('Home');
  await expect(lever).toContainText('1 Jan 2019 – 31 Dec 2019');

  const track = await middle(bar);
  await page.mouse.click(track.box.x + track.box.width * 0.9, track.y);
  await expect(lever).toContainText('1 Jan 2020 – 30 Dec 2020');
  await page.mouse.move(track.x, track.y);
  await page.mouse.wheel(0, 120);
  await expect(lever).toContainText('2 Jan 2020 – 31 Dec 2020');
  const grip = await middle(bar.locator('[data-grip]'));
  await drag(page, grip, { x: track.box.x + track.box.width + 50, y: track.y });
  await expect(lever).toContainText('2 Jan 2024 – 31 Dec 2024');

  const long = lever.getByRole('textbox', { name: /how many days/ });
  await long.fill('30');
  await long.press('Enter');
  await expect(lever).toContainText('30 of 2,192 days');
  await long.fill('99999');
  await long.press('Enter');
  await expect(lever).toContainText('1 Jan 2019 – 31 Dec 2024 · all 2,192 days');
});

test('a window counts what is there, in the order of the chart, over days that are missing', async ({
  page,
  request,
}) => {
  // Four weeks without their Sundays; the later a quay, the more boats.
  const days = Array.from({ length: 28 }, (_, i) => new Date(Date.UTC(2024, 0, 1 + i)));
  const csv = days
    .filter((day) => day.getUTCDay() !== 0)
    .map((day, i) => `${day.toISOString().slice(0, 10)},quay ${'abcdefgh'[i % 8]},${1 + (i % 8)}`);
  const dataset = await importCsv(request, 'No Sundays', `Day,Quay,Boats\n${csv.join('\n')}\n`);
  const window = { kind: 'window', dataset, start: 'first', clearing: 'start' };
  const chart = plainChart(dataset, { measure: { aggregate: 'sum', field: 'boats' } });
  const { id } = await (
    await request.post('/api/boards', {
      data: {
        document: {
          version: 1,
          title: 'No Sundays',
          levers: [
            { ...window, id: 'days', name: 'Days in view', field: 'day', grain: 'day', length: 12 },
            { ...window, id: 'quays', name: 'Quays in view', field: 'quay', length: 3 },
          ],
          charts: [
            {
              ...chart,
              id: 'by-day',
              title: 'Boats by day',
              form: 'columns',
              by: { field: 'day', grain: 'day' },
              order: { by: 'key', direction: 'ascending' },
              window: { lever: 'days', axis: 'following' },
            },
            {
              ...chart,
              id: 'by-quay',
              title: 'Boats by quay',
              form: 'bars',
              by: { field: 'quay' },
              order: { by: 'value', direction: 'descending' },
              window: { lever: 'quays', axis: 'following' },
            },
          ],
        },
      },
    })
  ).json();
  await page.goto(`/show/${id}`);
  const lever = leverNamed(page, 'Days in view');
  await expect(lever).toContainText('1 Jan 2024 – 13 Jan 2024 · 12 of 24 days');
  await expect.poll(() => allKeys(chartNamed(page, 'Boats by day'))).toHaveLength(12);
  await lever.getByRole('button', { name: /one day on/ }).click();
  await expect(lever).toContainText('2 Jan 2024 – 15 Jan 2024 · 12 of 24 days');
  await lever.getByRole('scrollbar').focus();
  await page.keyboard.press('End');
  await expect(lever).toContainText('15 Jan 2024 – 27 Jan 2024');

  const quays = leverNamed(page, 'Quays in view');
  const bars = chartNamed(page, 'Boats by quay');
  await expect(quays).toContainText('1 – 3 · 3 of 8 quays');
  await expect.poll(() => allKeys(bars)).toEqual(['quay h', 'quay g', 'quay f']);
  await quays.getByRole('button', { name: /one quay on/ }).click();
  await expect(quays).toContainText('2 – 4 · 3 of 8 quays');
  await expect.poll(() => allKeys(bars)).toEqual(['quay g', 'quay f', 'quay e']);
});

test('a clock is right at first paint, moves on the boundary, and is left alone by the pointer', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-03-05T08:10:00Z') });
  await page.goto('/show/what-sails-now');
  const chart = page.getByRole('figure').first();
  await expect(mark(chart, '8')).toHaveAttribute('data-state', 'lit');
  // An installed clock flows until it is paused: a slow machine must not reach the boundary by itself.
  await page.clock.pauseAt(new Date('2026-03-05T08:59:58Z'));
  await mark(chart, '17').hover();
  expect(await lit(chart)).toEqual(['8']);
  await page.clock.runFor(3000);
  await expect(mark(chart, '9')).toHaveAttribute('data-state', 'lit');
  expect(await lit(chart)).toEqual(['9']);
  await page.clock.runFor(3_600_000);
  expect(await lit(chart)).toEqual([]);
  await expect(chart.locator('figcaption')).toContainText('no mark matches the current time');
});

test('a clock sleeps while the page is hidden, and is right at once when it is shown', async ({ page }) => {
  await page.clock.install({ time: new Date('2026-03-05T08:10:00Z') });
  await page.goto('/show/what-sails-now');
  const chart = page.getByRole('figure').first();
  await expect(mark(chart, '8')).toHaveAttribute('data-state', 'lit');
  // An installed clock flows until it is paused: a slow machine must not reach the boundary by itself.
  await page.clock.pauseAt(new Date('2026-03-05T08:59:58Z'));
  const hide = (hidden: boolean) =>
    page.evaluate((value) => {
      Object.defineProperty(document, 'hidden', { configurable: true, get: () => value });
      document.dispatchEvent(new Event('visibilitychange'));
    }, hidden);
  await hide(true);
  await page.clock.runFor(3 * 3_600_000);
  expect(await lit(chart)).toEqual(['8']);
  await hide(false);
  expect(await lit(chart)).toEqual(['11']);
});

test('a clock can be held in the link, and let run from there', async ({ page }) => {
  await page.clock.install({ time: new Date('2026-03-05T03:00:00Z') });
  await page.goto('/show/what-sails-now?hour=2024-03-05T10:59:58&hour=1x');
  const chart = page.getByRole('figure').first();
  await page.clock.runFor(600);
  await expect(leverNamed(page, 'Hour now')).toContainText('10 h');
  await page.clock.runFor(2500);
  await expect(mark(chart, '11')).toHaveAttribute('data-state', 'lit');
  await leverNamed(page, 'Hour now').getByRole('button', { name: 'Reset Hour now' }).click();
  await page.clock.runFor(100);
  await expect(leverNamed(page, 'Hour now')).toContainText('3 h');
});

test('back and forward step through finished moves, not through a drag', async ({ page }) => {
  await page.goto(leaders);
  const lever = leverNamed(page, 'Count');
  const slider = lever.getByRole('slider');
  const track = await middle(lever.locator('[data-part~="slider-track"]'));
  await drag(page, await middle(slider), { x: track.box.x + track.box.width * 0.5, y: track.y });
  await expect.poll(() => param(page, 'count')).toBe('7');
  await page.getByRole('radio', { name: 'lowest' }).click();
  await expect.poll(() => param(page, 'side')).toBe('lowest');
  await page.goBack();
  await expect(page.getByRole('radio', { name: 'highest' })).toHaveAttribute('aria-checked', 'true');
  await expect(slider).toHaveAttribute('aria-valuenow', '7');
  await page.goBack();
  await expect(slider).toHaveAttribute('aria-valuenow', '3');
  await page.goForward();
  await expect(slider).toHaveAttribute('aria-valuenow', '7');
  await page.reload();
  await expect(slider).toHaveAttribute('aria-valuenow', '7');
});

test('a link with positions that are not there falls back and says so', async ({ page }) => {
  await page.goto(`${leaders}?count=99&side=sideways&year=1999-01-01&limit=abc`);
  await expect(leverNamed(page, 'Count')).toContainText('99 is above the maximum of 14; set to 14.');
  await expect(leverNamed(page, 'Side')).toContainText('sideways is not an option; set to highest.');
  await expect(leverNamed(page, 'Late from')).toContainText(
    'The link contains an invalid value for this lever',
  );
  await expect(page.getByRole('figure').first().locator('[data-state="lit"]')).toHaveCount(14);
});

test('levers that were moved have a dot and a way back; one button puts all back', async ({ page }) => {
  await page.goto(`${leaders}?count=5&side=lowest`);
  const dots = page.getByRole('img', { name: 'not at its start' });
  await expect(dots).toHaveCount(2);
  await page.getByRole('button', { name: 'Reset Count' }).click();
  await expect(dots).toHaveCount(1);
  await page.getByRole('button', { name: 'Reset all' }).click();
  await expect(dots).toHaveCount(0);
  await expect.poll(() => new URL(page.url()).search).toBe('');
  await expect(page.getByRole('button', { name: 'Reset all' })).toBeDisabled();
});
