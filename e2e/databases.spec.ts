import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import pg from 'pg';
import { type Cluster, startCluster } from '../server/testing/clusters';
import { connectionTo } from '../server/testing/connection-to';
import { chartNamed, expect, leverNamed, seriousFindings, test } from './fixtures';

/** A database of somebody else's, with a user who can only look. */
let cluster: Cluster;
const user = 'onlooker';
const password = 'sees-but-never-touches';

async function run(...statements: string[]): Promise<void> {
  const client = new pg.Client({ connectionString: cluster.url });
  await client.connect();
  try {
    for (const statement of statements) await client.query(statement);
  } finally {
    await client.end();
  }
}

test.beforeAll(async () => {
  cluster = await startCluster();
  await run(
    'CREATE SCHEMA quays',
    `CREATE TABLE quays."Cranes 🏗" (id bigint PRIMARY KEY, crane text, "Day worked" date, lifts integer, photo bytea)`,
    `INSERT INTO quays."Cranes 🏗" SELECT n, 'Crane "' || n % 5 || '"', DATE '2024-01-01' + (n % 300)::int, n % 7, NULL FROM generate_series(1, 3000) AS n`,
    `CREATE ROLE ${user} LOGIN PASSWORD '${password}'`,
    `GRANT USAGE ON SCHEMA quays TO ${user}`,
    `GRANT SELECT ON ALL TABLES IN SCHEMA quays TO ${user}`,
    'ANALYZE',
  );
});
test.afterAll(() => cluster.remove());

/** Its database is gone then: pictures of its boards would say so wherever they are shown. */
test.afterAll(async () => {
  const api = `${process.env.SORVIK_URL}/api`;
  const datasets = (await (await fetch(`${api}/datasets`)).json()) as {
    inPlace?: object;
    boards: { id: string }[];
  }[];
  for (const { id } of datasets.filter(({ inPlace }) => inPlace).flatMap(({ boards }) => boards))
    await fetch(`${api}/boards/${id}`, { method: 'DELETE' });
});

test('a table of another database is connected, looked at, made a board of, lost and found again', async ({
  page,
  expectNoise,
}) => {
  test.setTimeout(180_000);
  // Requests that the other database cannot answer are what this is about.
  expectNoise.allow.push(/status of (502|409)/);
  await page.goto('/');
  await page.getByRole('link', { name: 'Databases' }).click();
  await expect(page.getByRole('heading', { name: 'Databases' })).toBeVisible();
  const form = page.getByRole('form', { name: 'Connect a database' });
  const { port } = new URL(cluster.url);
  for (const [label, value] of [
    ['Name', 'The quays'],
    ['Host', '127.0.0.1'],
    ['Port', port],
    ['Database', 'sorvik'],
    ['User', user],
    ['Password', 'a guess'],
  ] as const)
    await form.getByLabel(label, { exact: true }).fill(value);
  await form.getByLabel('Encryption').selectOption('None');
  await form.getByRole('button', { name: 'Connect' }).click();
  await expect(page.getByRole('alert')).toContainText('The quays refuses: password authentication failed');
  await form.getByLabel('Password').fill(password);
  await form.getByRole('button', { name: 'Connect' }).click();
  const card = page.getByRole('article', { name: 'The quays' });
  await expect(card).toContainText(`sorvik on 127.0.0.1, port ${port}, as ${user}, not encrypted`);
  await expect(page.locator('body')).not.toContainText(password);

  await card.getByRole('link', { name: 'Choose tables' }).click();
  await page.getByRole('button', { name: 'Cranes 🏗' }).click();
  const chosen = page.locator('[data-part="chosen-table"]');
  await expect(chosen.getByRole('row', { name: /^photo/ })).toContainText('left out');
  await expect(chosen).not.toContainText('could also change');
  expect(await seriousFindings(page)).toEqual([]);
  await chosen.getByLabel('Name of the dataset').fill('Cranes');
  await chosen.getByRole('button', { name: 'Use this table' }).click();
  await expect(page.getByText('3,000 rows in 4 fields, read in place from quays.Cranes 🏗')).toBeVisible();
  await expect(page.getByRole('button', { name: '+ computed field' })).toHaveCount(0);
  const address = page.url();

  await page.getByRole('link', { name: 'New board from this' }).click();
  await page.getByRole('button', { name: /^Which crane has the most lifts/ }).click();
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-key]')).toHaveCount(5);

  await cluster.stop();
  await page.goto(address);
  await page.getByRole('button', { name: 'Look again' }).click();
  await expect(page.getByRole('alert')).toContainText(`The quays does not answer (127.0.0.1, port ${port})`);
  await cluster.start();
  await run('ALTER TABLE quays."Cranes 🏗" DROP COLUMN lifts');
  await page.getByRole('button', { name: 'Look again' }).click();
  await expect(page.getByText('3,000 rows in 3 fields')).toBeVisible();

  await page.getByRole('button', { name: 'Copy its rows here' }).click();
  await expect(page.getByText('3,000 rows copied.')).toBeVisible();
  await page.getByRole('link', { name: 'Refresh it by itself' }).click();
  await expect(page.getByLabel('Table in place').last()).toHaveValue(/^dataset:/);
  await expect(page.getByLabel('They are replaced by the new rows')).toBeChecked();
  await page.getByRole('button', { name: 'Refresh by itself', exact: true }).click();
  await expect(page.locator('[data-part="schedule"]')).toContainText(
    'Refreshed by itself from Cranes in The quays.',
  );
  expect(await seriousFindings(page)).toEqual([]);

  await page.goto('/databases');
  await card.getByRole('button', { name: 'Disconnect' }).click();
  await expect(page.getByRole('alert')).toContainText('The quays is used by Cranes');
});

test('charts say that the other database is away, and go on by themselves when it is back', async ({
  page,
  request,
  expectNoise,
}) => {
  test.setTimeout(120_000);
  expectNoise.allow.push(/status of 502/);
  const { port } = new URL(cluster.url);
  const made = await request.post('/api/connections', {
    data: { ...connectionTo(cluster.url), name: 'Quays again', user, password },
  });
  const { id } = await made.json();
  const placed = await request.post(`/api/connections/${id}/datasets`, {
    data: { schema: 'quays', table: 'Cranes 🏗', name: 'Cranes of days' },
  });
  const dataset = await placed.json();
  const board = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Cranes asked',
        levers: [plainPick(dataset.id, 'crane', 'crane', 'Crane')],
        charts: [
          plainChart(dataset.id, {
            id: 'days',
            title: 'Days worked',
            by: { field: 'crane' },
            // It cannot be added up: each move asks.
            measure: { aggregate: 'formula', text: 'COUNT(DISTINCT day_worked)' },
            cues: [plainCue('filter', 'crane')],
          }),
          plainChart(dataset.id, {
            id: 'months',
            title: 'Rows by month',
            form: 'columns',
            by: { field: 'day_worked', grain: 'month' },
          }),
        ],
      },
    },
  });
  const saved = await board.json();
  expect(board.status(), JSON.stringify(saved)).toBe(201);
  const days = chartNamed(page, 'Days worked').locator('[data-key]');
  const months = chartNamed(page, 'Rows by month').locator('[data-key]');
  const problems = page.getByText(`Quays again does not answer (127.0.0.1, port ${port})`);
  await cluster.stop();
  await page.goto(`/show/${saved.id}`);
  // The lever's list comes from there too.
  await expect(problems).toHaveCount(3, { timeout: 30_000 });
  await cluster.start();
  await expect(days).toHaveCount(5, { timeout: 30_000 });
  await expect(months).toHaveCount(10, { timeout: 30_000 });

  await cluster.stop();
  const list = leverNamed(page, 'Crane');
  await list.getByRole('option', { name: /^Crane "2"/ }).click();
  await expect(problems).toHaveCount(1);
  await expect(months).toHaveCount(10);
  await cluster.start();
  await expect(days).toHaveCount(1, { timeout: 30_000 });
});
