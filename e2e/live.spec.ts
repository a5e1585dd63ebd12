import type { APIRequestContext } from '@playwright/test';
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

/** A board with the tons of each quay, and a lever that lights some. */
async function tonsBoard(request: APIRequestContext, dataset: string): Promise<string> {
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Tons landed',
        levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
        charts: [
          plainChart(dataset, {
            title: 'Tons',
            by: { field: 'quay' },
            measure: { aggregate: 'sum', field: 'tons' },
            labels: 'always',
            cues: [plainCue('light', 'quays', { colour: 'ember' })],
          }),
        ],
      },
    },
  });
  return (await made.json()).id;
}

/** Sends new rows for a dataset, and takes them. */
async function refreshed(
  request: APIRequestContext,
  dataset: string,
  mode: 'append' | 'replace',
  csv: string,
): Promise<void> {
  const sent = await request.post(`/api/datasets/${dataset}/refreshes?name=More.csv&mode=${mode}`, {
    data: Buffer.from(csv),
    headers: { 'content-type': 'text/csv' },
  });
  const job = (await sent.json()).id;
  const taken = () => request.post(`/api/imports/${job}/take`).then((answer) => answer.status());
  await expect.poll(taken).toBe(200);
}

test('a show whose server was away for a moment has caught up once it is back', async ({
  page,
  request,
  expectNoise,
}) => {
  expectNoise.allow.push(/503|net::ERR/);
  const dataset = await importCsv(request, 'Landings away', landings);
  const id = await tonsBoard(request, dataset);
  // Each is away once: what tells of changes, what says what a dataset is now, and what gives its figures.
  const away = { changes: 1, dataset: 0, cube: 0 };
  const once = (what: keyof typeof away, path: RegExp, answer: 'refused' | 'broken') =>
    page.route(path, (route) => {
      if (away[what]-- < 1) return route.fallback();
      return answer === 'refused' ? route.fulfill({ status: 503, body: '{}' }) : route.abort();
    });
  await once('changes', /\/api\/changes/, 'refused');
  await once('dataset', new RegExp(`/api/datasets/${dataset}$`), 'broken');
  await once('cube', new RegExp(`/api/datasets/${dataset}/cube`), 'broken');
  await page.goto(`/show/${id}`);
  const figures = chartNamed(page, 'Tons').locator('[data-part~="value"]');
  await expect(figures).toHaveText(['20', '10', '30']);
  Object.assign(away, { dataset: 1, cube: 1 });
  await refreshed(request, dataset, 'append', 'quay,tons,boats\nQuel,5,1\n');
  await expect(figures).toHaveText(['20', '15', '30'], { timeout: 45_000 });
  expect(away.dataset).toBeLessThan(1);
  expect(away.cube).toBeLessThan(1);
});

test('bars grow to what new rows make them, in one short motion, and not where motion is not wanted', async ({
  page,
  request,
}) => {
  const dataset = await importCsv(request, 'Landed', landings);
  const board = await tonsBoard(request, dataset);
  /** The widths that the bar of Quel has, one after the other, until it is the longest. */
  const widths = async (csv: string, last: string) => {
    const chart = chartNamed(page, 'Tons');
    const bar = chart.locator('[data-key="Quel"] rect').first();
    await expect(bar).toBeVisible();
    const seen = await bar.evaluateHandle((rect) => {
      const list = [Number(rect.getAttribute('width'))];
      new MutationObserver(() => {
        const width = Number(rect.getAttribute('width'));
        if (width !== list.at(-1)) list.push(width);
      }).observe(rect, { attributes: true });
      return list;
    });
    await refreshed(request, dataset, 'append', csv);
    await expect(chart.locator('[data-key="Quel"]').getByText(last)).toBeVisible();
    await page.waitForTimeout(600);
    return seen.jsonValue();
  };
  await page.goto(`/show/${board}`);
  const moved = await widths('quay,tons,boats\nQuel,50,1\n', '60');
  expect(moved.length).toBeGreaterThan(2);
  expect([...moved].sort((a, b) => a - b)).toEqual(moved);
  await page.emulateMedia({ reducedMotion: 'reduce' });
  expect(await widths('quay,tons,boats\nQuel,20,1\nVenn,170,1\n', '80')).toHaveLength(2);
});

test('new data is told of once, and a lever says what it had to change', async ({ page, request }) => {
  const dataset = await importCsv(request, 'Landings told', landings);
  const id = await tonsBoard(request, dataset);
  await page.goto(`/show/${id}?quays=Venn`);
  const figures = chartNamed(page, 'Tons').locator('[data-part~="value"]');
  await expect(figures).toHaveText(['20', '10', '30']);
  const said = page.locator('[data-part~="announced"]');
  await expect(said).toBeEmpty();
  await page.evaluate(() => {
    const heard: string[] = [];
    Object.assign(globalThis, { heard });
    const place = document.querySelector('[data-part~="announced"]')!;
    new MutationObserver(() => heard.push(place.textContent!)).observe(place, {
      childList: true,
      characterData: true,
      subtree: true,
    });
  });
  await refreshed(request, dataset, 'replace', 'quay,tons,boats\nQuel,5,1\nAuk,6,1\n');
  await expect(figures).toHaveText(['6', '5']);
  await expect(said).toContainText('Tons: ');
  await refreshed(request, dataset, 'replace', 'quay,tons,boats\nQuel,7,1\n');
  await expect(figures).toHaveText(['7']);
  await page.waitForTimeout(1500);
  expect(await page.evaluate(() => (globalThis as unknown as { heard: string[] }).heard)).toHaveLength(1);
  // What the lever holds is not among the values any more: it says so.
  await expect(leverNamed(page, 'Quays')).toContainText('Not in the data, ignored: Venn.');
});
