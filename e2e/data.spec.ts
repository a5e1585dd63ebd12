import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { chartNamed, expect, importCsv, mark, plainBoard, test } from './fixtures';

const csvFile = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('a file becomes a dataset, with what did not fit skipped', async ({ page }) => {
  await page.goto('/');
  const rows = Array.from({ length: 300 }, (_, i) => `Quay ${i % 7},${i % 50},${i % 3 ? 'open' : ''}`);
  rows[40] = 'Quay 1,lots,open';
  rows[41] = 'Quay 1';
  await page
    .getByLabel('Data or board file')
    .setInputFiles(csvFile('Berths taken.csv', `Quay,Boats,State\n${rows.join('\n')}\n`));
  const card = page.getByRole('region', { name: 'Import of Berths taken.csv' });
  await expect(card).toContainText('298 rows imported, 2 skipped.');
  await card.getByRole('link', { name: 'View skipped rows' }).click();
  await expect(page.getByRole('heading', { name: '2 skipped rows' })).toBeVisible();
  const aside = page.locator('#set-aside');
  await expect(aside).toContainText('"lots" is not a whole number');
  await expect(aside.locator('tbody tr').first()).toContainText('42');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    aside.getByRole('link', { name: /CSV/ }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/^berths-taken(-\d+)?-set-aside\.csv$/);

  const field = page.locator('[data-field="state"]');
  await expect(field).toContainText('100');
  await plainBoard(page);
  const chart = chartNamed(page, 'Boats by quay');
  await expect(chart.locator('[data-key]')).toHaveCount(7);
});

test('a dropped file with doubtful dates is asked about', async ({ page }) => {
  await page.goto('/');
  const transfer = await page.evaluateHandle(() => {
    const data = new DataTransfer();
    data.items.add(
      new File(['on;n\n01/02/2021;1,5\n03/04/2021;2,5\n'], 'Doubtful.csv', { type: 'text/csv' }),
    );
    return data;
  });
  await page.locator('[data-part~="page-drop"]').dispatchEvent('drop', { dataTransfer: transfer });
  const card = page.getByRole('region', { name: 'Import of Doubtful.csv' });
  await expect(card).toContainText('In "on", which dates are these? The file says 01/02/2021 · 03/04/2021');
  await card.getByLabel('1 Feb 2021 · 3 Apr 2021').check();
  await card.getByRole('button', { name: 'Import' }).click();
  await expect(card).toContainText('2 rows imported.');
  await card.getByRole('link', { name: 'View fields' }).click();
  await expect(page.locator('[data-field="on"]')).toContainText('1 Feb 2021');
});

test('a column that could be of thousands or of decimals is asked about, with both readings', async ({
  page,
}) => {
  await page.goto('/');
  await page
    .getByLabel('Data or board file')
    .setInputFiles(csvFile('Tides.csv', 'place;level\nQuel;1.500\nHarl;2.250\n'));
  const card = page.getByRole('region', { name: 'Import of Tides.csv' });
  await expect(card).toContainText('In "level", which numbers are these? The file says 1.500 · 2.250');
  await expect(card.getByLabel('1,500 · 2,250')).toBeVisible();
  await card.getByLabel('1.5 · 2.25').check();
  await card.getByRole('button', { name: 'Import' }).click();
  await expect(card).toContainText('2 rows imported.');
  await card.getByRole('link', { name: 'View fields' }).click();
  await expect(page.locator('[data-field="level"] [data-part~="bound"]').first()).toHaveText('1.50');
});

test('a deleted dataset comes back from the home page, or gives its room back at once', async ({
  page,
  request,
}) => {
  const back = await importCsv(request, 'Brought back', 'a,b\nx,1\n');
  const gone = await importCsv(request, 'Gone for good', 'a,b\nx,1\n');
  for (const id of [back, gone]) await request.delete(`/api/datasets/${id}`);
  await page.goto('/');
  await page.getByText(/^Recently deleted: \d+$/).click();
  const row = (name: string) => page.locator('[data-part~="deleted"] tr', { hasText: name });
  await expect(row('Gone for good')).toContainText('deleted today');
  await row('Brought back').getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('link', { name: 'Brought back' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove Gone for good for good' }).click();
  await expect(row('Gone for good')).toHaveCount(0);
  expect((await request.post(`/api/datasets/${gone}/restore`)).status()).toBe(404);
});

test('a file that cannot be used says why, and a long import can be cancelled', async ({
  page,
  expectNoise,
}) => {
  expectNoise.allow.push(/4(15|22)/);
  await page.goto('/');
  const chooser = page.getByLabel('Data or board file');
  await chooser.setInputFiles(csvFile('Nothing.csv', ''));
  await expect(page.getByRole('region', { name: 'Import of Nothing.csv' })).toContainText(
    'The file is empty.',
  );
  await chooser.setInputFiles({
    name: 'Picture.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from([137, 80, 78, 71, 0, 1, 2, 3, 0]),
  });
  await expect(page.getByRole('region', { name: 'Import of Picture.csv' })).toContainText('is of no format');
  // On disk, as a file of that size is: through the browser's protocol it would take longer than it is read.
  const long = join(mkdtempSync(join(tmpdir(), 'sorvik-long-')), 'Long.csv');
  writeFileSync(long, `a,b,c\n${'1,x,2.5\n'.repeat(12_000_000)}`);
  await chooser.setInputFiles(long);
  const card = page.getByRole('region', { name: 'Import of Long.csv' });
  await expect(card).toContainText('rows read', { timeout: 60_000 });
  await card.getByRole('button', { name: 'Cancel' }).click();
  await expect(card).toContainText('Import cancelled. Nothing was saved.');
  rmSync(dirname(long), { recursive: true });
  await page.reload();
  await expect(page.locator('[data-dataset="long"]')).toHaveCount(0);
});

test('the type of a field is changed once it is known what would be lost', async ({ page, request }) => {
  const dataset = await importCsv(request, 'Types', 'code,n\n12,1\nx7,2\n13,3\n');
  await page.goto(`/datasets/${dataset}`);
  await page.getByRole('button', { name: 'Type of code: text' }).click();
  const editor = page.getByRole('dialog', { name: 'Type of code' });
  await editor.getByRole('radio', { name: 'whole number' }).click();
  await expect(editor).toContainText('1 of 3 values cannot be converted and will be deleted for good: "x7"');
  await editor.getByRole('button', { name: 'Convert and delete 1 value' }).click();
  await expect(page.getByRole('button', { name: 'Type of code: whole number' })).toBeVisible();
  await expect(page.locator('[data-field="code"]')).toContainText('13');
  await expect(page.getByRole('table', { name: 'First rows' })).toContainText('–');
});

test('boards are renamed, duplicated, deleted and brought back on the home page', async ({
  page,
  request,
}) => {
  const made = await (await request.post('/api/boards/when-is-the-sound-busiest/duplicate')).json();
  await page.goto('/');
  const card = page.locator(`[data-board="${made.id}"]`);
  await expect(card.locator('[data-state="lit"]')).toHaveCount(2);
  await card.getByRole('textbox').fill('Busy months');
  await page.keyboard.press('Enter');
  await page.reload();
  await expect(card.getByRole('textbox')).toHaveValue('Busy months');
  await card.getByRole('button', { name: /More/ }).click();
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.locator('[data-board="busy-months-copy"]')).toBeVisible();
  await card.getByRole('button', { name: /More/ }).click();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(card).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(card).toBeVisible();
});

test('a renamed field keeps its boards working', async ({ page, request }) => {
  const text = `quay,n\n${'Quel,1\nHarl,2\n'.repeat(20)}`;
  const dataset = await importCsv(request, 'Renaming', text);
  await page.goto(`/datasets/${dataset}`);
  await page.getByRole('textbox', { name: 'Name of quay' }).fill('Landing place');
  await page.keyboard.press('Enter');
  await plainBoard(page);
  const chart = chartNamed(page, 'N by landing place');
  await expect(mark(chart, 'Harl')).toBeVisible();
});

test('ten thousand categories, one row, negative and missing figures are all charted', async ({
  page,
  request,
}) => {
  const make = async (name: string, text: string) => {
    const dataset = await importCsv(request, name, text);
    await page.goto(`/datasets/${dataset}`);
    await plainBoard(page);
    return page.getByRole('figure');
  };
  const many = await make(
    'Many',
    `name,n\n${Array.from({ length: 10_000 }, (_, i) => `buoy ${i},${i % 97}.5`).join('\n')}\n`,
  );
  await expect(many.locator('canvas').first()).toBeVisible();
  await expect(many).not.toContainText('more are not');
  const one = await make('One', 'name,n\nonly,5\n');
  await expect(one.locator('[data-key]')).toHaveCount(1);
  const odd = await make('Odd', 'name,n\nup,5.5\ndown,-7.25\nnothing,\n,3\n');
  await expect(odd.locator('[data-key]')).toHaveCount(4);
  await expect(mark(odd, 'nothing')).toContainText('no value');
  await expect(odd.locator('[data-key=""]')).toContainText('(missing)');
});
