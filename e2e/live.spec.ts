import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { chartNamed, expect, importCsv, leverNamed, test } from './fixtures';

const landings = `quay,tons,boats\n${['Quel,10,2', 'Harl,20,3', 'Venn,30,4'].join('\n')}\n`;

test('an open show and a bench follow data that changes, and keep where levers stand', async ({
  page,
  request,
  context,
}) => {
  const dataset = await importCsv(request, 'Landings', landings);
  const made = await request.post(`/api/datasets/${dataset}/fields`, {
    data: { name: 'Each', formula: 'tons / boats' },
  });
  expect(made.status()).toBe(201);
  const board = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Landings live',
        levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
        charts: [
          plainChart(dataset, {
            title: 'Tons a boat',
            by: { field: 'quay' },
            measure: { aggregate: 'sum', field: 'each' },
            labels: 'always',
            cues: [plainCue('light', 'quays', { colour: 'ember' })],
          }),
        ],
      },
    },
  });
  expect(board.status(), await board.text()).toBe(201);
  const { id } = await board.json();
  await page.goto(`/show/${id}`);
  const figures = chartNamed(page, 'Tons a boat').locator('[data-part~="value"]');
  await expect(figures).toHaveText(['6.67', '5.00', '7.50']);
  await leverNamed(page, 'Quays').getByRole('option', { name: /Venn/ }).click();
  const bench = await context.newPage();
  await bench.goto(`/boards/${id}`);
  const benchFigures = chartNamed(bench, 'Tons a boat').locator('[data-part~="value"]');
  await expect(benchFigures).toHaveText(['6.67', '5.00', '7.50']);

  const changed = await request.patch(`/api/datasets/${dataset}/fields/each`, {
    data: { formula: 'tons * 2' },
  });
  expect(changed.status()).toBe(200);
  await expect(benchFigures).toHaveText(['40', '20', '60']);
  // In another tab, which comes back into sight: it catches up, and its levers are where they were.
  await page.bringToFront();
  await expect(figures).toHaveText(['40', '20', '60']);
  await expect(chartNamed(page, 'Tons a boat').locator('[data-state="lit"]')).toHaveCount(1);
  await expect(page).toHaveURL(/quays=Venn/);
});
