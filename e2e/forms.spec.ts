import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { chartNamed, expect, keysIn, leverNamed, ownBoard, saved, test, word } from './fixtures';

const gallery = '/show/the-sound-form-by-form';
const bars = 'Bars, filled up to the largest';
const ring = 'A donut of all passengers';
const dots = 'Dots: revenue and delay';
const lines = 'Lines of two measures, an axis each';
const three = ['Quel – Ostrin', 'Harl – Vemmen', 'Ostrin – Tarsk'];

const take = async (page: Page, title: string, way: string) => {
  const chart = chartNamed(page, title);
  await chart.hover();
  await chart.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: way }).click();
  const file = await download;
  return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
};

test('every form answers the same lever', async ({ page }) => {
  await page.goto(gallery);
  for (const title of [bars, ring, dots]) {
    const chart = chartNamed(page, title);
    await expect.poll(async () => (await keysIn(chart, 'lit')).sort(), title).toEqual([...three].sort());
  }
  const count = leverNamed(page, 'Count').getByRole('slider');
  await count.press('ArrowLeft');
  await count.press('ArrowLeft');
  for (const title of [bars, ring, dots])
    expect(await keysIn(chartNamed(page, title), 'lit')).toEqual([three[0]]);
  await expect(chartNamed(page, ring).locator('[data-part~="chart-subtitle"]')).toHaveText(
    'The 1 largest of 14 routes',
  );
  await expect(chartNamed(page, lines).locator('figcaption')).toContainText('1 of 72 months lit');
});

test('a lit slice steps forward; pointing at a name tells of its slice', async ({ page }) => {
  await page.goto(gallery);
  const chart = chartNamed(page, ring);
  const slice = chart.locator('[data-key="Quel – Ostrin"] path').first();
  await expect(slice).toBeVisible();
  const shift = () => slice.evaluate((path) => getComputedStyle(path).translate);
  await expect.poll(shift).not.toBe('none');
  await leverNamed(page, 'Count').getByRole('slider').press('Home');
  await expect.poll(shift).toBe('none');
  // Where there is little room a name is cut, and what it belongs to is told in full.
  const name = chart.locator('[data-part~="category"]').first();
  const begins = (await name.textContent())!.slice(0, 6);
  await name.hover();
  await expect(page.getByRole('tooltip').filter({ visible: true })).toContainText(begins);
});

test('dots are found by the pointer and walked by the keyboard', async ({ page }) => {
  await page.goto(gallery);
  const chart = chartNamed(page, dots);
  const dot = chart.locator('[data-part~="dot"][data-key="Harl – Vemmen"]');
  const box = (await dot.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  const tip = page.getByRole('tooltip').filter({ visible: true });
  await expect(tip).toContainText('Harl – Vemmen');
  await expect(tip).toContainText(/kr\s[\d,]+(\.\d+)? at \d+(\.\d+)?\smin/);
  await page.mouse.move(5, 700);
  await chart.locator('[data-part~="plot"] svg').focus();
  await page.keyboard.press('End');
  const told = page.getByRole('status').filter({ hasText: ' at ' });
  await expect(told).toContainText('min');
  const last = await told.textContent();
  await page.keyboard.press('ArrowLeft');
  await expect(told).not.toHaveText(last!);
});

test('a chart takes the window with its guides and levers, and gives it back', async ({ page }) => {
  await page.goto(gallery);
  const chart = chartNamed(page, lines);
  const lit = () => chart.locator('[data-part~="piece"], [data-part~="marker"][data-state="lit"]').count();
  await expect.poll(lit).toBeGreaterThan(2);
  const before = await lit();
  await chart.hover();
  await chart.getByRole('button', { name: `Enlarge ${lines}` }).click();
  const plot = chart.locator('[data-part~="plot"] svg');
  await expect.poll(async () => (await plot.boundingBox())!.height).toBeGreaterThan(500);
  expect(await lit()).toBe(before);
  await expect(chart.getByText('the middle half')).toBeVisible();
  await expect(chart.getByText(/^mean \d\.\d+\smin$/)).toBeVisible();
  await leverNamed(page, 'Count').getByRole('slider').press('ArrowRight');
  await expect(chart.locator('figcaption')).toContainText('4 of 72 months lit');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await plot.boundingBox())!.height).toBeLessThan(400);
});

test('a saved SVG opens on its own and shows the same states', async ({ page, context }) => {
  await page.goto(`${gallery}?count=2`);
  const { name, bytes } = await take(page, bars, 'Save as SVG');
  expect(name).toBe('bars-filled-up-to-the-largest.svg');
  const colours = await chartNamed(page, bars)
    .locator('[data-part~="mark"] [data-part~="bar"]')
    .evaluateAll((all) => all.map((bar) => getComputedStyle(bar).fill));
  const alone = await context.newPage();
  await alone.setContent(`<body style="margin:0">${bytes.toString('utf8')}</body>`);
  const svg = alone.locator('svg').first();
  await expect(svg.getByText('Quel – Ostrin', { exact: true })).toBeVisible();
  await expect(svg.getByText('lit: the 2 highest')).toBeVisible();
  await expect(svg.getByText(/^2 of 14 routes lit/)).toBeVisible();
  const carried = await alone
    .locator('svg svg rect')
    .evaluateAll((all) => all.map((each) => getComputedStyle(each).fill));
  const lit = colours[0]!;
  expect(new Set(colours).size).toBe(2);
  expect(carried.filter((fill) => fill === lit)).toHaveLength(2);
  expect(carried.filter((fill) => fill === colours.at(-1)).length).toBeGreaterThanOrEqual(12);
  // Nothing in it points to the page it came from.
  expect(bytes.toString('utf8')).not.toMatch(/var\(|class=|https?:\/\/(?!www\.w3\.org)/);
  await alone.close();
});

test('pictures and readings are saved as files', async ({ page }) => {
  await page.goto(`${gallery}?count=2`);
  const png = await take(page, ring, 'Save as PNG');
  expect(png.bytes.subarray(1, 4).toString()).toBe('PNG');
  expect(png.bytes.readUInt32BE(16)).toBeGreaterThan(600);
  const csv = await take(page, dots, 'Download the data (CSV)');
  const rows = csv.bytes.toString('utf8').trim().split('\r\n');
  expect(rows[0]).toBe('route,total revenue,average delay,state');
  expect(rows).toHaveLength(15);
  expect(rows[1]).toMatch(/^Quel – Ostrin,\d+(\.\d+)?,4\.\d+,lit$/);
  expect(rows.filter((row) => row.endsWith(',muted'))).toHaveLength(12);
});

const boxOf = async (chart: Locator) => (await chart.boundingBox())!;

test('charts are moved and sized on the board, by keyboard and by pointer, and taken back', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'when-is-the-sound-busiest');
  await page.goto(`/boards/${id}`);
  const first = chartNamed(page, 'Passengers by month');
  const second = chartNamed(page, 'Minutes late, by vessel, in those months');
  const [before, other] = [await boxOf(first), await boxOf(second)];
  const size = page.getByRole('button', { name: /^Size of Passengers by date month|^Size of / }).first();
  await size.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await boxOf(first)).width).toBeGreaterThan(before.width + 60);
  // The other one made room.
  await expect.poll(async () => (await boxOf(second)).y).toBeGreaterThan(other.y + 100);
  await saved(page);
  await page.reload();
  await expect.poll(async () => (await boxOf(first)).width).toBeGreaterThan(before.width + 60);
  const grip = page.getByRole('button', { name: /^Move Minutes late/ });
  await second.hover();
  const at = (await grip.boundingBox())!;
  const top = await boxOf(first);
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + 20, top.y + 5, { steps: 8 });
  await page.mouse.up();
  await expect.poll(async () => (await boxOf(second)).y < (await boxOf(first)).y).toBe(true);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await boxOf(second)).y > (await boxOf(first)).y).toBe(true);
});

test('an axis, a format and words under the title are said in sentences', async ({ page, request }) => {
  const id = await ownBoard(request, 'when-is-the-sound-busiest');
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by month');
  const say = async (text: string) => {
    await page.getByRole('combobox', { name: /Add a sentence/ }).fill(text);
    await page.getByRole('listbox', { name: 'Sentences' }).getByRole('option').first().click();
  };
  await say('logarithmic');
  // A logarithmic axis has no zero.
  await expect(chart.locator('[data-part~="tick"]').first()).toHaveText(/^1(,000|K)$|^100?$/);
  await expect(chart.locator('[data-part~="tick"]', { hasText: /^0$/ })).toHaveCount(0);
  await say('number format');
  await word(page, /^Unit/).click();
  await page.getByRole('textbox', { name: 'Unit' }).fill('pax');
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="tick"]', { hasText: 'pax' }).first()).toBeVisible();
  await say('adds a subtitle');
  await expect(chart.locator('[data-part~="chart-subtitle"]')).toHaveText('2 of 72 lit');
  await say('another measure');
  await expect(chart.locator('[data-part~="text"][data-part~="axis"]')).toHaveCount(2);
  await saved(page);
});

test('on a phone the charts stand below each other, and nothing scrolls sideways', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(gallery);
  const boxes = await Promise.all([bars, ring, dots].map((title) => boxOf(chartNamed(page, title))));
  expect(new Set(boxes.map(({ x }) => Math.round(x))).size).toBe(1);
  expect(boxes.map(({ y }) => y)).toEqual([...boxes.map(({ y }) => y)].sort((a, b) => a - b));
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test.describe('on paper', () => {
  test.use({ colorScheme: 'dark' });
  test('a show is light, its charts are whole and apart, and the foot says where the levers were', async ({
    page,
  }) => {
    await page.goto('/show/who-leads-who-trails?count=4');
    await expect(page.locator('[data-part~="mark"]').first()).toBeVisible();
    await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
    await page.evaluate(() => dispatchEvent(new Event('beforeprint')));
    await page.emulateMedia({ media: 'print' });
    await page.setViewportSize({ width: 750, height: 1060 });
    await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'light');
    await expect(page.locator('[data-part~="levers"]').first()).toBeHidden();
    await expect(page.getByRole('button', { name: 'Reset all' })).toBeHidden();
    await expect(page.locator('[data-part~="print-foot"]')).toContainText(
      /^Count: 4 · Side: highest · .*Year: all · /,
    );
    const cells = async () =>
      page.locator('[data-part~="cell"]').evaluateAll((all) =>
        all.map((cell) => {
          const own = cell.getBoundingClientRect();
          const plot = cell.querySelector('[data-part~="plot"] svg')!.getBoundingClientRect();
          return { top: own.top, bottom: own.bottom, in: plot.bottom <= own.bottom + 1, right: plot.right };
        }),
      );
    await expect.poll(async () => (await cells()).every((cell) => cell.in && cell.right <= 751)).toBe(true);
    const [first, second] = await cells();
    expect(second!.top).toBeGreaterThanOrEqual(first!.bottom);
    await page.evaluate(() => dispatchEvent(new Event('afterprint')));
    await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
  });
});
