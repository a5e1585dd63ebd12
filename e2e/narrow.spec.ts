import { plainChart } from '@sorvik/core/testing/documents';
import { expect, importCsv, test } from './fixtures';

/** How much of the page lies beyond its right edge, in CSS pixels. */
const sideways = () => document.documentElement.scrollWidth - innerWidth;

const unbroken = 'Ferrykilometresperquayandhourwithoutonespaceorhyphenanywhereinthewholename';

for (const width of [320, 1280])
  test(`names of one long word stay on the home page at ${width} px`, async ({ page, request }) => {
    const dataset = await importCsv(request, unbroken, 'quay,boats\nOst,3\nVemm,5\n');
    const made = await request.post('/api/boards', {
      data: {
        document: {
          version: 1,
          title: unbroken,
          subtitle: unbroken,
          levers: [],
          charts: [
            plainChart(dataset, {
              id: 'c',
              form: 'bars',
              by: { field: 'quay' },
              measure: { aggregate: 'sum', field: 'boats' },
              order: { by: 'value', direction: 'descending' },
            }),
          ],
        },
      },
    });
    const { id } = await made.json();
    await page.setViewportSize({ width, height: 700 });
    await page.goto('/');
    await expect(page.locator(`[data-dataset="${dataset}"]`)).toBeVisible();
    await expect(page.locator(`[data-board="${id}"] svg`).first()).toBeVisible();
    expect(await page.evaluate(sideways)).toBe(0);
    await page.goto('about:blank');
    await request.delete(`/api/boards/${id}`);
    await request.delete(`/api/datasets/${dataset}`);
  });
