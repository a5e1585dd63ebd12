import { expect, importCsv, seriousFindings, test } from './fixtures';

const sailings = 'Vessel,People\nTern,10\nHeron,20\nAuk,30\n,40\nTern,50\n';
const vessels = 'Name,Class,People\nTern,small,80\nHeron,large,310\n';
const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('fields of another dataset are added once it is counted which rows have a match', async ({
  page,
  request,
}) => {
  const id = await importCsv(request, 'Sailings of May', sailings);
  await importCsv(request, 'Crews', 'Name,Class,Since\nTern,small,2001\nTern,large,2002\n');
  await page.goto(`/datasets/${id}`);
  await page.getByRole('button', { name: '+ fields of another dataset' }).click();
  const panel = page.getByRole('region', { name: 'Fields of another dataset' });
  await panel.getByLabel('Dataset with the fields').selectOption('Crews');
  await expect(panel.getByRole('status')).toContainText(
    '1 value of Name is in more than one row of Crews: Tern. Choose a field in which each value is once.',
  );
  await panel.getByLabel('Class').check();
  await expect(panel.getByRole('button', { name: 'Add 1 field' })).toBeDisabled();
  await panel.getByLabel('Field of Crews').selectOption('Since');
  await expect(panel).toContainText('These two fields are of different types');

  await panel.getByLabel('File with the fields').setInputFiles(csv('Fleet.csv', vessels));
  await expect(panel.getByLabel('Dataset with the fields').locator('option:checked')).toHaveText('Fleet');
  await expect(panel.getByRole('status')).toContainText('3 of 5 rows have a match.');
  await expect(panel.getByRole('status')).toContainText('1 row has a value that Fleet does not have: Auk.');
  await expect(panel.getByRole('status')).toContainText('1 row has no value in Vessel.');
  expect(await seriousFindings(page)).toEqual([]);
  await panel.getByLabel('Class').check();
  await panel.getByLabel('People, as “People (Fleet)”').check();
  await panel.getByRole('button', { name: 'Add 2 fields' }).click();
  await expect(panel).toBeHidden();
  await expect(page.locator('[data-field="class"]')).toContainText('text, from Fleet');
  await expect(page.getByRole('row', { name: 'Tern 10 small 80' })).toBeVisible();

  // What is looked up elsewhere does not go from under it.
  await page.locator('[data-field="class"]').getByRole('link', { name: 'Fleet' }).click();
  await expect(page).toHaveTitle(/^Fleet/);
});

test('of two files that came together one adds its fields to the other', async ({ page }) => {
  await page.goto('/');
  await page
    .getByLabel('Data or board file')
    .setInputFiles([csv('Boats.csv', vessels), csv('Trips of June.csv', sailings)]);
  await page.getByRole('button', { name: '2 datasets' }).click();
  await page.getByRole('link', { name: 'Add the fields of Boats.csv to Trips of June.csv' }).click();
  const panel = page.getByRole('region', { name: 'Fields of another dataset' });
  await expect(panel.getByLabel('Field of this dataset')).toHaveValue('vessel');
  await expect(panel.getByLabel('Field of Boats')).toHaveValue('name');
  await panel.getByLabel('Class').check();
  await panel.getByRole('button', { name: 'Add 1 field' }).click();
  await expect(page.locator('[data-field="class"]')).toContainText('text, from Boats');
});
