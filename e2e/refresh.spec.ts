import type { Page } from '@playwright/test';
import { expect, importCsv, test } from './fixtures';

const landings = 'day,quay,tons\n2024-03-01,Quel,10\n2024-03-01,Ness,7\n2024-03-02,Quel,4\n';

const choose = (page: Page, name: string, content: string) =>
  page
    .getByLabel('File with new rows')
    .setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(content) });

test('new rows are looked at before they are taken, and the way back leads to the rows before', async ({
  page,
  request,
}) => {
  const id = await importCsv(request, 'Landings by day', landings);
  await page.goto(`/datasets/${id}`);
  await page.getByRole('link', { name: 'New rows' }).first().click();
  await page.getByRole('radio', { name: /same value in/ }).check();
  await page.getByLabel('Field by which rows are replaced').selectOption('day');
  await choose(
    page,
    'Corrected.csv',
    'day,quay,tons\n2024-03-01,Toft,12\n2024-03-03,Quel,1\n2024-03-03,Ness,some\n',
  );
  const preview = page.locator('[data-part="preview"]');
  await expect(preview.locator('dd')).toHaveText(['3', '−2', '+2', '3']);
  await expect(preview).toContainText('One row does not fit');
  await preview.getByRole('button', { name: 'Append 2 rows' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'There are 3 rows now' })).toBeVisible();
  await page.getByRole('link', { name: 'View the dataset' }).click();
  const version = (seq: number) => page.locator(`[data-version="${seq}"]`);
  await expect(version(2)).toContainText('Appended by key: Corrected.csv');
  await version(2).getByRole('button', { name: 'What changed' }).click();
  await expect(page.locator('[data-part="change"]')).toContainText('Toft');
  await expect(page.getByText('2 rows went')).toBeVisible();
  await version(1)
    .getByRole('button', { name: /Go back/ })
    .click();
  await expect(version(3)).toContainText('Went back to: Landings by day.csv');
  await expect(version(3)).toContainText('current');
  await expect(page.locator('[data-field="quay"]')).toContainText('2');
});

test('a file without the key is refused in a sentence, and nothing is changed', async ({
  page,
  request,
  expectNoise,
}) => {
  expectNoise.allow.push(/status of 422/);
  const id = await importCsv(request, 'Landings without key', landings);
  await page.goto(`/datasets/${id}/refresh`);
  await page.getByRole('radio', { name: /same value in/ }).check();
  await choose(page, 'Odd.csv', 'quay,tons\nQuel,1\n');
  await expect(page.getByRole('alert')).toContainText('The file has no column day');
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('radio', { name: /replaced by the new rows/ }).check();
  await choose(page, 'Odd.csv', 'quay,tons\nQuel,1\n');
  await expect(page.locator('[data-part="preview"]')).toContainText(
    'The field day is not in the file and goes.',
  );
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Import cancelled. Nothing was saved.')).toBeVisible();
  const { rows } = await (await request.get(`/api/datasets/${id}`)).json();
  expect(rows).toBe(3);
});
