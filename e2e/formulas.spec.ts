import { chartNamed, expect, leverNamed, ownBoard, saved, test, word } from './fixtures';

test('a change is rehearsed: charts and totals follow the levers, and nothing is asked of the server', async ({
  page,
}) => {
  await page.goto('/show/if-fares-rose');
  const bars = page.getByRole('figure').first();
  const table = chartNamed(page, 'The change on each route');
  await expect(bars.locator('figcaption')).toContainText('5 of 14 routes lit');
  await page.waitForLoadState('networkidle');
  const asked: string[] = [];
  // That it follows its data is no question.
  page.on('request', (request) => /\/api\/(?!changes)/.test(request.url()) && asked.push(request.url()));

  const dearer = leverNamed(page, 'Dearer by').getByRole('textbox');
  const lost = leverNamed(page, 'Travellers lost').getByRole('textbox');
  await dearer.fill('0');
  await dearer.press('Enter');
  await lost.fill('0');
  await lost.press('Enter');
  // With nothing changed both measures are the same, and the change is none.
  await expect(table.locator('[data-part~="chart-subtitle"]')).toHaveText(/^In total 0\scr;/);
  const figures = bars.locator('[data-key="Quel – Ostrin"] [data-part~="value"]');
  await expect(figures).toHaveCount(2);
  const [now, rehearsed] = await figures.allTextContents();
  expect(rehearsed).toBe(now);

  await lost.fill('10');
  await lost.press('Enter');
  await expect(table.locator('[data-part~="chart-subtitle"]')).toHaveText(/^In total −[\d.]+M\scr;/);
  const million = (text: string) => Number(text.replace(/[^\d.]/g, ''));
  const [still, less] = await figures.allTextContents();
  expect(still).toBe(now);
  expect(million(less!)).toBeCloseTo(million(now!) * 0.9, 0);
  // What is measured against stays muted; the rehearsed bars are lit.
  await expect(bars.locator('[data-state="lit"]')).toHaveCount(5);
  expect(asked).toEqual([]);
});

test('what was typed into a formula is not lost by Esc: it can be put back, or done again', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const measure = word(page, /^Measure/);
  const before = await measure.textContent();
  await measure.click();
  await page.getByRole('radio', { name: 'a formula…' }).click();
  const formula = page.getByRole('textbox', { name: 'Formula' });
  await formula.fill('SUM(revenue) / COUNT(*)');
  // Not a formula yet: the chart does not have it, but it was thought about.
  await formula.fill('SUM(revenue) / (COUNT(*) +');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(formula).toHaveCount(0);
  await expect(measure).toHaveText(before!);
  await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect(measure).toContainText('revenue');
  await measure.click();
  await page.getByRole('button', { name: /^Put back what was typed here/ }).click();
  await expect(formula).toHaveText('SUM(revenue) / (COUNT(*) +');
});

test('a measure is written as a formula: mistakes are marked, names offered, and the chart follows', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await word(page, /^Measure/).click();
  await page.getByRole('radio', { name: 'a formula…' }).click();
  const formula = page.getByRole('textbox', { name: 'Formula' });
  await expect(formula).toHaveText('SUM(passengers)');
  await formula.fill('SUM(revenu) / SUM(passengers)');
  await expect(page.locator('[data-part~="formula"] mark')).toHaveText('revenu');
  await expect(page.locator('[data-part~="formula"] [role=status]')).toContainText('Is revenue meant?');
  // Until it is right again the chart shows what could be computed last.
  await expect(page.getByRole('figure').first().locator('[data-part~="problem"]')).toHaveCount(0);

  await formula.fill('SUM(revenue) / ');
  await formula.press('End');
  await page.keyboard.type('SUM(pass');
  await expect(page.locator('.cm-tooltip-autocomplete')).toContainText('passengers');
  await page.keyboard.press('Escape');
  await expect(page.locator('.cm-tooltip-autocomplete')).toHaveCount(0);
  await formula.fill('SUM(revenue) / SUM(passengers)');
  await page.getByRole('textbox', { name: 'Name of the measure' }).fill('revenue for each passenger');
  await page.getByRole('textbox', { name: 'Name of the measure' }).press('Enter');
  await expect(word(page, 'Measure: revenue for each passenger')).toBeVisible();
  await saved(page);
  const { document } = await (await request.get(`/api/boards/${id}`)).json();
  expect(document.charts[0].measure).toEqual({
    aggregate: 'formula',
    text: 'SUM(revenue) / SUM(passengers)',
    name: 'revenue for each passenger',
  });
});

test('workings show each step; a trial moves levers beside the board, and is adopted', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'who-leads-who-trails');
  await page.goto(`/boards/${id}`);
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(3);
  await page.getByRole('tab', { name: 'Workings' }).click();
  const table = page.getByRole('table', { name: 'Workings' });
  await expect(table.getByRole('columnheader', { name: /^Rank over/ })).toBeVisible();
  await expect(table.locator('[data-state="lit"]')).toHaveCount(3);
  await expect(table.getByRole('row').nth(1)).toContainText('Quel – Ostrin');

  await page.getByRole('radio', { name: 'lit', exact: true }).check();
  await expect(page.getByText('3 of 14 values')).toBeVisible();
  await page.getByRole('radio', { name: 'all', exact: true }).check();
  await table.getByRole('button', { name: /^Total passengers|^Passengers/ }).click();
  await expect(table.getByRole('row').nth(1)).not.toContainText('Quel – Ostrin');

  // A row points at its mark.
  await table.getByRole('button', { name: 'Fennow – Aldsey' }).click();
  await expect(chart.locator('[data-part~="tip"]')).toContainText('Fennow – Aldsey');

  await page.getByRole('button', { name: 'Try other lever positions' }).click();
  const trial = page.getByRole('region', { name: 'Trial positions' });
  await trial.getByRole('textbox', { name: 'Count, typed' }).fill('5');
  await trial.getByRole('textbox', { name: 'Count, typed' }).press('Enter');
  await expect(table.locator('[data-state="lit"]')).toHaveCount(5);
  await expect(table.locator('[title="On the board: muted"]')).toHaveCount(2);
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(3);
  await page.getByRole('button', { name: 'Apply to the board' }).click();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(5);
});

test('bars are compared with the touched bar, and Esc gives the plain chart back', async ({ page }) => {
  await page.goto('/show/if-fares-rose');
  const chart = chartNamed(page, 'The change on each route');
  const figure = (route: string) => chart.locator(`[data-key="${route}"] [data-part~="value"]`);
  const own = await figure('Harl – Skarrow').textContent();
  await chart.locator('[data-key="Harl – Skarrow"] [data-part~="bar"]').click();
  await expect(chart.locator('figcaption')).toContainText('Compared with Harl – Skarrow, as percent.');
  await expect(figure('Harl – Skarrow')).toHaveText(own!);
  await expect(figure('Quel – Ostrin')).toHaveText(/^\+[\d.]+%$/);
  await expect(figure('Umbry – Pellin')).toHaveText(/^−[\d.]+%$/);
  // Another one is touched, by keyboard; then none.
  const list = chart.getByRole('listbox');
  await list.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect(chart.locator('figcaption')).toContainText('Compared with Quel – Ostrin');
  await expect(page).toHaveURL(/against=Quel/);
  await page.reload();
  await expect(chart.locator('figcaption')).toContainText('Compared with Quel – Ostrin');
  await chart.getByRole('listbox').focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(chart.locator('figcaption')).toHaveText(/^5 of 14 routes lit/);
});

test('a comparison is one offer: its lever and its touch come with it', async ({ page, request }) => {
  const id = await ownBoard(request, 'who-leads-who-trails');
  await page.goto(`/boards/${id}`);
  const chart = page.getByRole('figure').first();
  await page.getByRole('combobox', { name: /Add a sentence/ }).fill('with the touched bar');
  await page.getByRole('listbox', { name: 'Sentences' }).getByRole('option').first().click();
  await expect(leverNamed(page, 'Compared with')).toBeVisible();
  // The chart answers once it has the data that it needs for it.
  await expect(chart.getByRole('listbox')).toBeVisible();
  await chart.locator('[data-key="Ostrin – Tarsk"] [data-part~="bar"]').click();
  await expect(chart.locator('figcaption')).toContainText('Compared with Ostrin – Tarsk, as a difference.');
  await word(page, 'As: a difference').click();
  await page.getByRole('radio', { name: 'a ratio' }).click();
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-key="Quel – Ostrin"] [data-part~="value"]')).toHaveText(/^[\d.]+\s×$/);
});
