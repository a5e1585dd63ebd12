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
  const pick = { kind: 'pick', dataset, field: 'station', start: [], clearing: 'empty' };
  const filter = (lever: string, condition: object) => ({
    id: `keep-${lever}`,
    effect: 'filter',
    condition,
    look: {},
    resting: 'plain',
  });
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Counters',
        levers: [
          { id: 'stations', name: 'Stations', ...pick },
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
          {
            id: 'lines',
            dataset,
            title: 'Counted by line',
            form: 'bars',
            by: { field: 'line' },
            measure: { aggregate: 'sum', field: 'counted' },
            order: { by: 'key', direction: 'ascending' },
            cues: [
              filter('stations', { kind: 'member', lever: 'stations' }),
              filter('days', { kind: 'span', lever: 'days', match: 'touching' }),
            ],
            guides: [],
            touches: [],
            labels: 'always',
          },
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
  expect(answers.filter((status) => status !== 200).every((status) => status === 409)).toBe(true);
  answers.length = 0;
  await page.goto(`/show/${id}?stations=S7&days=2021-01-01..2021-01-10`);
  await expect(figures).toHaveText(['55']);
  expect([...new Set(answers)]).toEqual([200]);
});
