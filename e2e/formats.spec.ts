import * as XLSX from '@e965/xlsx';
import { expect, test } from './fixtures';

const workbook = (sheets: Record<string, unknown[][]>): Buffer => {
  const book = XLSX.utils.book_new();
  for (const [name, rows] of Object.entries(sheets))
    XLSX.utils.book_append_sheet(book, XLSX.utils.aoa_to_sheet(rows), name);
  return XLSX.write(book, { type: 'buffer', bookType: 'xlsx' });
};
const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('a spreadsheet is asked about: which sheet, which row names the columns, what adds up others', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByLabel('Data or board file').setInputFiles({
    name: 'Piers.xlsx',
    mimeType: 'application/octet-stream',
    buffer: workbook({
      Plan: [
        ['a', 'b'],
        [1, 2],
      ],
      Landings: [['Landings 2024'], ['Quay', 'Tons'], ['Quel', 3], ['Ness', 4], ['Total', 7]],
    }),
  });
  const card = page.getByRole('region', { name: 'Import of Piers.xlsx' });
  await expect(card.getByText('Which sheet is to be imported?')).toBeVisible();
  await expect(card.getByText('Which row names the columns?')).toBeHidden();
  await card.getByRole('radio', { name: /^Landings/ }).check();
  await expect(card.getByRole('radio', { name: 'Row 2: Quay · Tons' })).toBeChecked();
  await expect(card.getByText('These rows add up the others: Total · 7')).toBeVisible();
  await card.getByRole('button', { name: 'Import' }).click();
  await expect(card).toContainText('2 rows imported');
  await card.getByRole('link', { name: 'View fields' }).click();
  await expect(page.getByText('One row that adds up others is left out.')).toBeVisible();
  await expect(page.locator('[data-field="tons"]')).toContainText('whole number');
});

test('rows that are copied from a spreadsheet are pasted onto the page', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Data' })).toBeVisible();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'Quay\tTons\nQuel\t3\nNess\t4\n');
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
  });
  await expect(page.getByRole('region', { name: 'Import of Pasted rows.tsv' })).toContainText(
    '2 rows imported',
  );
});

test('several files become one dataset, or one each', async ({ page }) => {
  await page.goto('/');
  const files = page.getByLabel('Data or board file');
  const months = [csv('May.csv', 'quay,n\nQuel,1\n'), csv('June.csv', 'quay,n\nNess,2\nQuel,3\n')];
  await files.setInputFiles(months);
  await page.getByRole('button', { name: 'One dataset of them all' }).click();
  const card = page.getByRole('region', { name: 'Import of 2 files' });
  await card.getByRole('radio', { name: 'Keep the name of the file in a field' }).check();
  await card.getByRole('button', { name: 'Import' }).click();
  await expect(card).toContainText('3 rows imported');
  await card.getByRole('button', { name: 'Close' }).click();
  await files.setInputFiles(months);
  await page.getByRole('button', { name: '2 datasets' }).click();
  await expect(page.getByRole('region', { name: 'Import of May.csv' })).toContainText('1 row imported');
  await expect(page.getByRole('region', { name: 'Import of June.csv' })).toContainText('2 rows imported');
});
