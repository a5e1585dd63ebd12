import type { Locator } from '@playwright/test';
import { chartNamed, expect, leverNamed, mark, ownBoard, saved, test, word } from './fixtures';

const edges = (chart: Locator) =>
  chart.evaluate((figure) => {
    const box = figure.querySelector('[data-part~="area"]')!.getBoundingClientRect();
    const lines = [...figure.querySelectorAll('line[data-part~="guide"]')].map(
      (line) => line.getBoundingClientRect().top,
    );
    return { band: [box.top, box.bottom], lines: lines.sort((a, b) => a - b) };
  });

test('a band lies between its limits, to the pixel, while a line is dragged', async ({ page }) => {
  await page.goto('/show/where-do-we-leave-the-corridor');
  const chart = chartNamed(page, 'Load factor by week');
  await expect(chart.locator('[data-part~="area"]')).toHaveCount(1);
  const agree = async () => {
    const { band, lines } = await edges(chart);
    band.forEach((edge, i) => {
      expect(Math.abs(edge - lines[i]!)).toBeLessThan(1.1);
    });
    return band[0]!;
  };
  const before = await agree();
  const handle = chart.getByRole('slider', { name: /upper limit/ });
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + 200, box.y);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, box.y + 80, { steps: 5 });
  // Moves are folded to frames; in each of them all three agree.
  await expect.poll(agree).toBeGreaterThan(before + 60);
  await page.mouse.up();
  await agree();
  await handle.press('ArrowUp');
  await agree();
});

test('events stand at their days with their names; those out of view are named at the edge', async ({
  page,
  request,
}) => {
  await page.goto('/show/what-changed-after-the-new-pier');
  const byDay = chartNamed(page, 'Passengers by day');
  await expect(byDay.locator('text[data-part~="event"]')).toHaveText([
    '← the new timetable',
    'the storm winter',
    'the new pier',
  ]);
  await leverNamed(page, 'Days in view').getByRole('scrollbar').focus();
  await page.keyboard.press('Home');
  await expect(byDay.locator('text[data-part~="event"]')).toHaveText(['the new timetable and 2 more →']);

  const id = await ownBoard(request, 'what-changed-after-the-new-pier');
  await page.goto(`/boards/${id}`);
  const byMonth = chartNamed(page, 'Passengers by month');
  await byMonth.locator('[data-part~="chart-title"]').click();
  await page.getByRole('combobox', { name: /Add a sentence/ }).fill('draws the events');
  await page.keyboard.press('Enter');
  await expect(byMonth.locator('line[data-part~="event"]')).toHaveCount(3);
  await word(page, 'Background: plain').click();
  await page.getByRole('radio', { name: 'alternating' }).click();
  await page.keyboard.press('Enter');
  // Each stretch that begins with an event, in its colour.
  await expect(byMonth.locator('[data-part~="area"]')).toHaveCount(3);
  await expect(byMonth.locator('[data-part~="area"]').last()).toHaveAttribute('data-look', 'tide');
  await saved(page);
});

test('series are stacked and stand as shares; bars are filled up to a whole; forms change in place', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}?routes=`);
  const chart = page.getByRole('figure').first();
  await expect(mark(chart, 'Quel – Ostrin')).toBeVisible();
  const say = page.getByRole('combobox', { name: /Add a sentence/ });
  await say.fill('to the total');
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="rest"]')).toHaveCount(14);
  const reach = async (selector: string) => {
    const box = (await chart.locator(selector).first().boundingBox())!;
    return box.x + box.width;
  };
  const whole = await reach('[data-part~="rest"]');
  expect(whole).toBeGreaterThan(await reach('[data-part~="mark"] [data-part~="bar"]'));
  await word(page, 'Full length: the grand total').click();
  await page.getByRole('radio', { name: 'the largest value', exact: true }).click();
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="rest"]')).toHaveCount(13);
  await say.fill('splits by fare');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Only single or stacked bars and columns can be extended.')).toBeVisible();
  await word(page, 'Arrangement: side by side').click();
  await page.getByRole('radio', { name: 'stacked', exact: true }).click();
  await page.keyboard.press('Enter');
  const ends = async (key: string) => {
    const boxes = await Promise.all(
      ['commuter pass', 'resident', 'visitor'].map((fare) =>
        chart.locator(`[data-key="${key}"][data-series="${fare}"] [data-part~="bar"]`).boundingBox(),
      ),
    );
    return boxes.map((box) => [box!.x, box!.x + box!.width]);
  };
  const [first, second, third] = await ends('Quel – Ostrin');
  expect(Math.abs(first![1]! - second![0]!)).toBeLessThan(1.6);
  expect(Math.abs(second![1]! - third![0]!)).toBeLessThan(1.6);
  await word(page, 'Arrangement: stacked').click();
  await page.getByRole('radio', { name: 'stacked to 100%' }).click();
  await page.keyboard.press('Enter');
  const [a, b] = [await ends('Quel – Ostrin'), await ends('Brask – Umbry')];
  expect(Math.abs(a[2]![1]! - b[2]![1]!)).toBeLessThan(1.6);
  await word(page, 'Form: bars').click();
  await page.getByRole('radio', { name: /^a table/ }).click();
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="mark"]')).toHaveCount(42);
  await word(page, 'Form: a table').click();
  await page.getByRole('radio', { name: /^areas/ }).click();
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="ground"]')).toHaveCount(3);
  await expect(chart.locator('[data-part~="mark"]')).toHaveCount(0);
  await saved(page);
});
