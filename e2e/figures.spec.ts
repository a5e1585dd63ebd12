import { chartNamed, expect, keysIn, leverNamed, mark, ownBoard, saved, test, word } from './fixtures';

const say = async (page: import('@playwright/test').Page, text: string) => {
  await page.getByRole('combobox', { name: /Add a sentence/ }).fill(text);
  await page.getByRole('listbox', { name: 'Sentences' }).getByRole('option').first().click();
};

test('a line stands at a formula of the marks in view, and what is lit goes by the same', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'where-do-we-leave-the-corridor');
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by month');
  const formula = page.getByRole('textbox', { name: 'Formula' });
  for (const name of [/^Value: the upper limit of Corridor/, /^Limit: the upper limit of Corridor/]) {
    await word(page, name).first().click();
    await page.getByRole('radio', { name: 'a formula…' }).click();
    await expect(formula).toHaveText(':corridor.high');
    await formula.fill('AVG(value) + STDDEV_SAMP(valu)');
    await expect(page.locator('[data-part~="formula"] [role=status]')).toContainText('Is value meant?');
    await formula.fill('AVG(value) + STDDEV_SAMP(value)');
    await expect(page.locator('[data-part~="formula"] mark')).toHaveCount(0);
    // Pressing elsewhere keeps what was written.
    await chart.locator('[data-part~="chart-title"]').click();
  }
  await expect(word(page, /: AVG\(value\) \+ STDDEV_SAMP\(value\)$/)).toHaveCount(2);
  const line = (await chart.locator('line[data-part~="guide"]').first().boundingBox())!;
  await expect
    .poll(async () => (await keysIn(chart, 'lit')).length)
    .toBeGreaterThan(await chart.locator('[data-part~="mark"][data-look~="tide"]').count());
  const heads = await chart
    .locator('[data-part~="mark"][data-look~="ember"] [data-part~="bar"]')
    .evaluateAll((bars) => bars.map((bar) => bar.getBoundingClientRect().top));
  for (const head of heads) expect(head).toBeLessThanOrEqual(line.y + 1);
  await saved(page);
});

test('figures are taken as shares of the grand total, or of what is kept', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by route');
  await say(page, 'percent of a total');
  await expect(word(page, 'Shares: the grand total')).toBeVisible();
  const shared = chartNamed(page, 'Passengers by route, as shares of the grand total');
  const share = async (route: string) =>
    Number.parseFloat((await mark(shared, route).locator('[data-part~="value"]').textContent())!);
  const whole = await share('Quel – Ostrin');
  // Of one year it is a smaller share of all there is.
  await leverNamed(page, 'Years').getByText('2022').click();
  await expect.poll(() => share('Quel – Ostrin')).toBeLessThan(whole / 3);
  await word(page, 'Shares: the grand total').click();
  await page.getByRole('radio', { name: 'the filtered total' }).click();
  await page.keyboard.press('Enter');
  await expect(chart).toHaveCount(0);
  const kept = chartNamed(page, 'Passengers by route, as shares of the filtered total').locator(
    '[data-part~="value"]',
  );
  const sum = async () =>
    (await kept.allTextContents()).reduce((total, text) => total + Number.parseFloat(text), 0);
  await expect.poll(sum).toBeGreaterThan(99);
  expect(await sum()).toBeLessThan(101);
});

test('a table of several measures has a column for each, and its rows are lit with the charts', async ({
  page,
}) => {
  await page.goto('/show/if-fares-rose');
  const table = chartNamed(page, 'The same in figures');
  await expect(table.locator('text[data-part~="axis"]')).toHaveText([
    'Total revenue',
    'With the new fare',
    'Change',
  ]);
  const row = table.locator('[data-key="Quel – Ostrin"]');
  await expect(row).toHaveCount(3);
  const tops = await row
    .locator('[data-part~="value"]')
    .evaluateAll((texts) => texts.map((text) => Math.round(text.getBoundingClientRect().top)));
  expect(new Set(tops).size).toBe(1);
  await expect(table.locator('[data-state="lit"]')).toHaveCount(15);
  await leverNamed(page, 'Largest').getByRole('slider').press('Home');
  await expect(table.locator('[data-state="lit"]')).toHaveCount(0);
});

test('bars are given colours of their own, and figures inside, each in one sentence', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'when-is-the-sound-busiest');
  await page.goto(`/boards/${id}`);
  await page.getByRole('figure').last().locator('[data-part~="chart-title"]').click();
  const chart = page.getByRole('figure').last();
  await say(page, 'labels inside');
  await expect(chart.locator('[data-part~="value"][data-inside="yes"]').first()).toBeAttached();
  await word(page, /^Category/).click();
  await page.getByRole('radio', { name: 'Fare type' }).click();
  await page.keyboard.press('Enter');
  await say(page, 'colour of its own');
  const fills = () =>
    chart
      .locator('[data-part~="bar"]')
      .evaluateAll((bars) => [...new Set(bars.map((bar) => getComputedStyle(bar).fill))]);
  await expect.poll(async () => (await fills()).length).toBe(3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await fills()).length).toBe(1);
});
