import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { chartNamed, expect, importCsv, leverNamed, test } from './fixtures';

const stations = 300;
const days = 900;

/** A reading of each station on each day: more combinations than a page takes at once. */
function readings(): string {
  const lines = ['station,line,day,counted'];
  for (let d = 0; d < days; d++) {
    const day = new Date(Date.UTC(2021, 0, 1 + d)).toISOString().slice(0, 10);
    for (let s = 0; s < stations; s++) lines.push(`S${s},L${s % 3},${day},${(d % 10) + 1}`);
  }
  return `${lines.join('\n')}\n`;
}

test('a chart whose levers filter by more than a page can hold is asked for each move, and refuses nothing', async ({
  page,
  request,
  expectNoise,
}) => {
  test.setTimeout(180_000);
  const dataset = await importCsv(request, 'Counters', readings());
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Counters',
        levers: [
          plainPick(dataset, 'station', 'stations', 'Stations'),
          {
            id: 'days',
            name: 'Days',
            kind: 'span',
            dataset,
            field: 'day',
            grain: 'day',
            start: null,
            presets: [],
            outside: 'nearest',
            clearing: 'empty',
          },
        ],
        charts: [
          plainChart(dataset, {
            title: 'Counted by line',
            by: { field: 'line' },
            measure: { aggregate: 'sum', field: 'counted' },
            cues: [
              plainCue('filter', 'stations'),
              {
                ...plainCue('filter', 'days'),
                condition: { kind: 'span', lever: 'days', match: 'touching' },
              },
            ],
            labels: 'always',
          }),
        ],
      },
    },
  });
  expect(made.status(), await made.text()).toBe(201);
  const { id } = await made.json();
  const answers: number[] = [];
  page.on('response', (response) => {
    if (response.url().includes('/cube')) answers.push(response.status());
  });
  await page.goto(`/show/${id}`);
  const chart = chartNamed(page, 'Counted by line');
  const figures = chart.locator('[data-part~="value"]');
  await expect(figures).toHaveText(['495,000', '495,000', '495,000']);
  await page.goto(`/show/${id}?stations=S7`);
  await expect(figures).toHaveText(['4,950']);
  // A move asks anew; what was there stays until the answer is.
  const list = leverNamed(page, 'Stations');
  await list.getByRole('option', { name: /^S8\b/ }).click();
  await expect(figures).toHaveText(['4,950', '4,950']);
  // The rows are changed under the viewer's hands: the next answers are of what they are now.
  const changed = await request.post(`/api/datasets/${dataset}/fields/counted/retype`, {
    data: { type: 'decimal' },
  });
  expect(changed.status()).toBe(200);
  expectNoise.allow.push(/status of 409/);
  await list.getByRole('option', { name: /^S9\b/ }).click();
  await expect(figures).toHaveText(['4,950', '4,950', '4,950']);
  expect(answers.filter((status) => ![200, 409].includes(status))).toEqual([]);
  // Back where it was answered, while something else is still on its way: nothing is waited for.
  await page.route(/\/cube\?/, async (route) => {
    await new Promise((go) => setTimeout(go, 500));
    await route.continue().catch(() => {});
  });
  const last = list.getByRole('option', { name: /^S9\b/ });
  await last.click();
  await last.click();
  await expect(chart.locator('[data-part~="plot"]')).not.toHaveClass(/is-waiting/);
  await expect(figures).toHaveText(['4,950', '4,950', '4,950']);
  await page.unroute(/\/cube\?/);
  answers.length = 0;
  await page.goto(`/show/${id}?stations=S7&days=2021-01-01..2021-01-10`);
  await expect(figures).toHaveText(['55']);
  expect([...new Set(answers)]).toEqual([200]);
});

test('windows of charts with more readings than a page takes at once show shares, comparisons and axes of them all', async ({
  page,
  request,
}) => {
  test.setTimeout(180_000);
  const dataset = await importCsv(request, 'Watched', readings());
  const chart = (title: string, more: object) =>
    plainChart(dataset, {
      id: title.toLowerCase().replaceAll(' ', '-'),
      title,
      form: 'columns',
      by: { field: 'day', grain: 'day' },
      split: { field: 'station', colours: 'one' },
      measure: { aggregate: 'sum', field: 'counted' },
      order: { by: 'key', direction: 'ascending' },
      window: { lever: 'days', axis: 'following' },
      cues: [plainCue('filter', 'stations')],
      labels: 'always',
      ...more,
    });
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Watched',
        levers: [
          plainPick(dataset, 'station', 'stations', 'Stations'),
          {
            id: 'days',
            name: 'Days in view',
            kind: 'window',
            dataset,
            field: 'day',
            grain: 'day',
            length: 3,
            counts: 'calendar',
            start: 'first',
            clearing: 'start',
          },
        ],
        charts: [
          chart('Share', { measure: { aggregate: 'sum', field: 'counted', share: 'series' } }),
          chart('Against all', { compare: { with: 'whole', as: 'difference' } }),
          chart('Against before', { compare: { with: 'previous', as: 'difference' } }),
          chart('Fixed', { window: { lever: 'days', axis: 'fixed' } }),
        ],
      },
    },
  });
  expect(made.status(), await made.text()).toBe(201);
  const { id } = await made.json();
  // The tenth day counts 10, the eleventh 1 again; all days of a station make 4,950.
  await page.goto(`/show/${id}?stations=S7&days=2021-01-11&days=3%20long`);
  const figures = (title: string) => chartNamed(page, title).locator('[data-part~="value"]');
  await expect(figures('Share')).toHaveText(['0.02%', '0.04%', '0.06%']);
  await expect(figures('Against all')).toHaveText(['−4,949', '−4,948', '−4,947']);
  await expect(figures('Against before')).toHaveText(['−9', '+1', '+1']);
  await expect(figures('Fixed')).toHaveText(['1', '2', '3']);
  const ticks = chartNamed(page, 'Fixed').locator('[data-part~="tick"]');
  await expect(ticks.filter({ hasText: /^10$/ })).toHaveCount(1);
});

test('a table of thousands of rows shows each of them: what is scrolled to, what is lit, what the keyboard is on', async ({
  page,
  request,
}) => {
  const rows = 3000;
  const name = (i: number) => `Buoy ${String(i).padStart(4, '0')}`;
  const csv = Array.from({ length: rows }, (_, i) => `${name(i)},${rows - i}`).join('\n');
  const dataset = await importCsv(request, 'Buoys', `buoy,seen\n${csv}\n`);
  const chart = (form: string) =>
    plainChart(dataset, {
      id: form,
      title: `Buoys as ${form}`,
      form,
      by: { field: 'buoy' },
      measure: { aggregate: 'sum', field: 'seen' },
      order: { by: 'value', direction: 'descending' },
      cues: [
        {
          ...plainCue('light', 'low', { colour: 'ember' }),
          condition: { kind: 'rank', count: 3, side: 'lowest', ties: 'share' },
        },
      ],
    });
  const made = await request.post('/api/boards', {
    data: { document: { version: 1, title: 'Buoys', levers: [], charts: [chart('table'), chart('ring')] } },
  });
  expect(made.status(), await made.text()).toBe(201);
  await page.goto(`/show/${(await made.json()).id}`);
  const table = chartNamed(page, 'Buoys as table');
  // The lit ones are the last: the plot goes there by itself.
  const litNames = table.locator('[data-part~="category"][data-is="lit"]');
  await expect(litNames).toHaveText([name(rows - 3), name(rows - 2), name(rows - 1)]);
  await expect(table.locator('[data-part~="category"]')).not.toHaveCount(rows);
  await table.locator('[data-part~="plot"]').evaluate((plot) => plot.scrollTo(0, 0));
  await expect(table.locator('[data-part~="category"]').first()).toHaveText(name(0));
  await expect(table.locator('[data-part~="value"]').first()).toHaveText('3,000');
  const drawing = table.locator('[data-part~="plot"] > svg');
  await drawing.focus();
  await page.keyboard.press('End');
  await expect(table.getByText(`${name(rows - 1)}`).last()).toBeVisible();
  const ring = chartNamed(page, 'Buoys as ring');
  await expect(ring.locator('[data-lit="3"]')).toHaveCount(1);
});

test('of an axis that is too long to be fetched a chart asks for what its window has in view', async ({
  page,
  request,
}) => {
  test.setTimeout(180_000);
  const dataset = await importCsv(request, 'Long counters', readings());
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Long counters',
        levers: [
          {
            id: 'days',
            name: 'Days',
            kind: 'window',
            dataset,
            field: 'day',
            length: 2,
            start: 'first',
            clearing: 'start',
          },
        ],
        charts: [
          plainChart(dataset, {
            title: 'Counted by station',
            form: 'table',
            by: { field: 'day' },
            split: { field: 'station', colours: 'one' },
            measure: { aggregate: 'sum', field: 'counted' },
            window: { lever: 'days', axis: 'following' },
          }),
        ],
      },
    },
  });
  expect(made.status(), await made.text()).toBe(201);
  const { id } = await made.json();
  const asked: string[] = [];
  page.on('response', (response) => {
    const url = new URL(response.url());
    if (!url.pathname.endsWith('/cube') || !url.searchParams.has('keep')) return;
    expect(response.status()).toBe(200);
    asked.push(...url.searchParams.getAll('keep'));
  });
  await page.goto(`/show/${id}`);
  const chart = chartNamed(page, 'Counted by station');
  const figures = chart.locator('[data-part~="value"]');
  await expect(figures).toHaveCount(2 * stations);
  await expect(figures.first()).toHaveText('1');
  await expect(figures.last()).toHaveText('2');
  expect(asked).toEqual([JSON.stringify({ field: 'day', ranges: [['2021-01-01', '2021-01-06']] })]);
  // A step within what is there asks nothing; one beyond it asks for what comes next.
  const lever = leverNamed(page, 'Days');
  const slider = lever.getByRole('scrollbar');
  await slider.focus();
  await page.keyboard.press('ArrowRight');
  await expect(figures.first()).toHaveText('2');
  await expect(figures.last()).toHaveText('3');
  expect(asked).toHaveLength(1);
  await page.keyboard.press('End');
  await expect(lever).toContainText('18 Jun 2023 – 19 Jun 2023 · 2 of 900 days');
  await expect(figures.first()).toHaveText('9');
  await expect(figures.last()).toHaveText('10');
  expect(asked.at(-1)).toBe(JSON.stringify({ field: 'day', ranges: [['2023-06-16', '2023-06-19']] }));
});

test('the figures of an upright axis stay at its edge while the plot is scrolled sideways', async ({
  page,
  request,
}) => {
  const csv = Array.from({ length: 600 }, (_, i) => `Pile ${i},${(i % 40) + 1}`).join('\n');
  const dataset = await importCsv(request, 'Piles', `pile,depth\n${csv}\n`);
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Piles',
        levers: [],
        charts: [
          plainChart(dataset, {
            title: 'Depths',
            form: 'columns',
            by: { field: 'pile' },
            measure: { aggregate: 'sum', field: 'depth' },
          }),
        ],
      },
    },
  });
  expect(made.status(), await made.text()).toBe(201);
  await page.goto(`/show/${(await made.json()).id}`);
  const chart = chartNamed(page, 'Depths');
  const figure = chart.locator('[data-part~="tick"]').first();
  await expect(figure).toBeVisible();
  const before = await figure.boundingBox();
  await chart.locator('[data-part~="plot"]').evaluate((plot) => plot.scrollTo(500, 0));
  await expect(chart.locator('[data-held]')).toHaveCount(1);
  await expect.poll(async () => (await figure.boundingBox())!.x).toBeCloseTo(before!.x, 0);
});
