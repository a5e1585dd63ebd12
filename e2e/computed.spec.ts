import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { chartNamed, expect, importCsv, leverNamed, seriousFindings, test } from './fixtures';

const rows = ['Quel,2021,Tern,10,4', 'Quel,2021,Maid,20,5', 'Quel,2022,Tern,30,0', 'Harl,2022,Maid,7,7'];
const csv = `Quay,Year,Vessel,People,Cars\n${rows.join('\n')}\n`;

test('a field is computed from others: seen on the first rows, kept, changed, and not deleted blindly', async ({
  page,
  request,
}) => {
  const id = await importCsv(request, 'Computed', csv);
  await page.goto(`/datasets/${id}`);
  await page.getByRole('button', { name: '+ computed field' }).click();
  const form = page.getByRole('form', { name: 'A computed field' });
  await form.getByLabel('Name of the field').fill('Per car');
  await expect(form.getByLabel('Name of the field')).toHaveValue('Per car');
  const formula = form.getByRole('textbox', { name: 'Formula' });
  await formula.fill('peple / cars');
  await expect(form.locator('mark')).toHaveText('peple');
  await expect(form.getByRole('status')).toContainText('Is people meant?');
  await expect(form.getByRole('button', { name: 'Add field' })).toBeDisabled();
  await formula.fill('people / cars');
  const trial = form.getByRole('table', { name: 'The first rows' });
  await expect(trial.locator('tbody tr').nth(0)).toHaveText('1042.5');
  await expect(trial.locator('tbody tr').nth(2)).toHaveText('300–');
  await expect(form).toContainText('1 of the first 4 rows have no value.');
  expect(await seriousFindings(page)).toEqual([]);
  await form.getByRole('button', { name: 'Add field' }).click();
  const field = page.locator('[data-field="per_car"]');
  await expect(field).toContainText('number, computed');

  // A second one hangs on it: the first cannot go, and cannot be made to hang on the second.
  await page.getByRole('button', { name: '+ computed field' }).click();
  await form.getByLabel('Name of the field').fill('Twice');
  await formula.fill('per_car * 2');
  await form.getByRole('button', { name: 'Add field' }).click();
  await expect(page.locator('[data-field="twice"]')).toBeVisible();
  await field.getByRole('button', { name: 'Delete Per car' }).click();
  await expect(page.getByRole('dialog')).toContainText('Twice is computed from Per car.');
  await page.keyboard.press('Escape');
  await field.getByRole('button', { name: 'computed' }).click();
  const change = page.getByRole('form', { name: 'How Per car is computed' });
  await change.getByRole('textbox', { name: 'Formula' }).fill('twice + 1');
  await expect(change.getByRole('status')).toContainText('round in a circle: Per car → Twice → Per car');
  await change.getByRole('textbox', { name: 'Formula' }).fill('people / NULLIF(cars, 0) + 1');
  await change.getByRole('button', { name: 'Save changes' }).click();
  await expect(page.locator('[data-field="twice"] [data-part~="bound"]').first()).toHaveText('4');

  await page.locator('[data-field="twice"]').getByRole('button', { name: 'Delete Twice' }).click();
  await expect(page.getByRole('dialog')).toContainText('Not used on any board or in any other field.');
  await page.getByRole('dialog').getByRole('button', { name: 'Delete Twice' }).click();
  await expect(page.locator('[data-field="twice"]')).toHaveCount(0);
});

test('figures that cannot be added up are asked for with each move, and the bench says so', async ({
  page,
  request,
}) => {
  const dataset = await importCsv(request, 'Asked', csv);
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Vessels met',
        levers: [plainPick(dataset, 'year', 'years', 'Years')],
        charts: [
          plainChart(dataset, {
            title: 'Vessels',
            by: { field: 'quay' },
            measure: { aggregate: 'formula', text: 'COUNT(DISTINCT vessel)', name: 'vessels' },
            order: { by: 'value', direction: 'descending' },
            cues: [plainCue('filter', 'years')],
          }),
        ],
      },
    },
  });
  expect(made.status(), await made.text()).toBe(201);
  const { id } = await made.json();
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Vessels');
  const figures = () => chart.locator('[data-part~="value"]').allTextContents();
  await expect.poll(figures).toEqual(['2', '1']);
  await expect(page.locator('[data-sentence="shows"]')).toContainText(
    'This measure is recalculated by the database each time Years moves, so it is slower.',
  );
  const years = leverNamed(page, 'Years');
  await years.getByRole('option', { name: /2022/ }).click();
  await expect.poll(figures).toEqual(['1', '1']);
  await years.getByRole('option', { name: /2021/ }).click();
  await expect.poll(figures).toEqual(['2', '1']);
});
