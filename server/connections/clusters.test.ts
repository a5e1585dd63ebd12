import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { aggregateSql, isSoonerByDay } from '../sources/aggregate-sql';
import { tableSql } from '../sources/in-place/columns';
import { plainDialect } from '../sources/in-place/in-place-source';
import type { Question } from '../sources/source';
import { type Cluster, certificateFor, startCluster } from '../testing/clusters';
import { connectionTo } from '../testing/connection-to';
import { type TestApp, testApp } from '../testing/test-app';

/** A table of three clusters: the first holds it partitioned over the two others. */
let t: TestApp;
let first: Cluster;
let north: Cluster;
let south: Cluster;
let connection: string;
let dataset: string;
const trusted = certificateFor('IP:127.0.0.1');

/** So many sailings a day from each harbour: of a few, an engine would rather fetch them all. */
const daily = 30;
const sailings = 'harbour text NOT NULL, day date NOT NULL, passengers bigint, fare double precision';

async function run(url: string, ...statements: string[]): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    for (const statement of statements) await client.query(statement);
  } finally {
    await client.end();
  }
}

/** Has the first cluster know where another one is. */
const pointTo = (name: string, url: string) => {
  const { port, username, password } = new URL(url);
  return run(
    first.url,
    `CREATE SERVER IF NOT EXISTS ${name} FOREIGN DATA WRAPPER postgres_fdw OPTIONS (host '127.0.0.1', port '1', dbname 'sorvik')`,
    `CREATE USER MAPPING IF NOT EXISTS FOR CURRENT_USER SERVER ${name} OPTIONS (user '${username}', password '${password}')`,
    `ALTER SERVER ${name} OPTIONS (SET port '${port}')`,
  );
};

beforeAll(async () => {
  [t, first, north, south] = await Promise.all([
    testApp(),
    startCluster(trusted),
    startCluster(),
    startCluster(),
  ]);
  for (const [shard, harbours] of [
    [north, ['Harl', 'Quel']],
    [south, ['Ostrin', 'Venn']],
  ] as const)
    await run(
      shard.url,
      `CREATE TABLE sailings (${sailings})`,
      `INSERT INTO sailings SELECT h, DATE '2024-01-01' + n, n * length(h), n / 4.0 FROM unnest(ARRAY['${harbours.join("','")}']) AS h, generate_series(0, 729) AS n, generate_series(1, ${daily})`,
    );
  await run(
    first.url,
    'CREATE EXTENSION postgres_fdw',
    `CREATE TABLE sailings (${sailings}) PARTITION BY LIST (harbour)`,
  );
  await pointTo('north', north.url);
  await pointTo('south', south.url);
  await run(
    first.url,
    "CREATE FOREIGN TABLE sailings_north PARTITION OF sailings FOR VALUES IN ('Harl', 'Quel') SERVER north OPTIONS (table_name 'sailings')",
    "CREATE FOREIGN TABLE sailings_south PARTITION OF sailings FOR VALUES IN ('Ostrin', 'Venn') SERVER south OPTIONS (table_name 'sailings')",
    'ANALYZE sailings_north',
    'ANALYZE sailings_south',
  );
  const made = await t.send('POST', '/api/connections', {
    ...connectionTo(first.url),
    tls: 'own',
    authority: trusted.certificate,
  });
  expect(made.status).toBe(201);
  connection = made.body.id;
  const placed = await t.send('POST', `/api/connections/${connection}/datasets`, {
    schema: 'public',
    table: 'sailings',
    name: 'All sailings',
  });
  expect(placed.status).toBe(201);
  dataset = placed.body.id;
}, 120_000);
afterAll(async () => {
  await t.close();
  await Promise.all([first, north, south].map((cluster) => cluster.remove()));
});

const cube = async (query: string) => {
  const { body } = await t.json(`/api/datasets/${dataset}`);
  return t.request(`/api/datasets/${dataset}/cube?version=${body.version}&${query}`);
};
const figures = async (query: string) => {
  const answer = await cube(query);
  expect(answer.status).toBe(200);
  const { dimensions, partials } = cubeFromArrow(new Uint8Array(await answer.arrayBuffer()));
  const [by] = dimensions;
  return Object.fromEntries(
    Array.from(by!.codes, (code, i) => [by!.values[code], partials[0]!.values[i]] as const),
  );
};
const problem = async (query: string) => {
  const answer = await cube(query);
  return { status: answer.status, body: await answer.json() };
};

describe('a table of a cluster', () => {
  it('lists the table once, not the parts that it lies in', async () => {
    const { body } = await t.json(`/api/connections/${connection}/tables`);
    expect(body.map(({ name }: { name: string }) => name)).toEqual(['sailings']);
  });

  it('has the rows of all parts', async () => {
    const { body } = await t.json(`/api/datasets/${dataset}`);
    expect(body.rows).toBe(4 * 730 * daily);
    expect(body.inPlace).toEqual({ connection, name: 'Harbour office', table: 'public.sailings' });
    const triangle = (daily * (729 * 730)) / 2;
    expect(await figures('key=harbour&aggregate=sum.passengers')).toEqual({
      Harl: 4 * triangle,
      Quel: 4 * triangle,
      Ostrin: 6 * triangle,
      Venn: 4 * triangle,
    });
  });

  const explained = async (question: Pick<Question, 'keys' | 'kept'>) => {
    const { fields, dataset: stored } = await t.sources.of(dataset);
    const table = tableSql(stored.relation!, fields);
    const asked: Question = {
      ...question,
      partials: [
        { aggregate: 'count' },
        { aggregate: 'sum', field: 'passengers' },
        { aggregate: 'max', field: 'fare' },
      ],
      limit: 1000,
    };
    const { text, values } = aggregateSql(asked, () => table, fields, plainDialect, {
      byDay: isSoonerByDay(asked, fields, stored.rows),
    });
    const { server } = await t.sources.connections.place(connection);
    const { rows } = await server.read((client) => client.query(`EXPLAIN (VERBOSE) ${text}`, values));
    return rows.map((row) => Object.values(row)[0]).join('\n');
  };

  it('is added up where its parts lie, where what parts it is among the keys', async () => {
    const plan = await explained({
      keys: [{ field: 'harbour' }, { field: 'day', grain: 'month' }],
      kept: [{ field: 'day', ranges: [['2024-03-01', '2024-12-31']] }],
    });
    expect(plan.match(/Relations: Aggregate on/g)).toHaveLength(2);
    expect(plan.match(/Remote SQL: SELECT harbour, day, count.*GROUP BY 1, 2/g)).toHaveLength(2);
  });

  it('asks only the parts that can have what is kept', async () => {
    const plan = await explained({
      keys: [{ field: 'harbour' }],
      kept: [{ field: 'harbour', values: ['Venn'] }],
    });
    expect(plan).toContain('sailings_south');
    expect(plan).not.toContain('sailings_north');
  });

  it('says which part does not answer, and goes on when it is back', async () => {
    await north.stop();
    const down = await problem('key=day.year&aggregate=count');
    expect(down).toMatchObject({ status: 502, body: { type: '/problems/source-failed' } });
    expect(down.body.detail).toMatch(/^Harbour office could not answer: .*north/);
    // What lies elsewhere is still there.
    const kept = encodeURIComponent('{"field":"harbour","values":["Venn"]}');
    expect(await figures(`key=harbour&aggregate=count&keep=${kept}`)).toEqual({ Venn: 730 * daily });
    await north.start();
    expect(await figures('key=day.year&aggregate=count')).toEqual({
      '2024-01-01': 4 * 366 * daily,
      '2025-01-01': 4 * 364 * daily,
    });
  });

  it('says that the cluster does not answer, and goes on when it is back', async () => {
    await first.stop();
    const down = await problem('key=day.quarter&aggregate=count');
    expect(down).toMatchObject({ status: 502, body: { type: '/problems/source-not-reached' } });
    expect(down.body.detail).toMatch(/^Harbour office does not answer \(127\.0\.0\.1, port \d+\)/);
    await first.start();
    expect(Object.keys(await figures('key=day.quarter&aggregate=count'))).toHaveLength(8);
  });
});

describe('a certificate', () => {
  const attempt = (more: object) =>
    t.send('POST', '/api/connections', { ...connectionTo(first.url), ...more });

  it('that nobody vouches for is not trusted, and no password is sent', async () => {
    const { status, body } = await attempt({ tls: 'usual' });
    expect(status).toBe(502);
    expect(body).toMatchObject({ type: '/problems/source-certificate' });
    expect(body.detail).toMatch(/^Harbour office cannot be trusted, so nothing was sent to it: self.signed/);
  });

  it('for another host is not trusted', async () => {
    const { body } = await attempt({ host: 'localhost', tls: 'own', authority: trusted.certificate });
    expect(body).toMatchObject({ type: '/problems/source-certificate' });
    expect(body.detail).toContain('localhost');
  });

  it('that is not there is missed', async () => {
    const { body } = await t.send('POST', '/api/connections', { ...connectionTo(south.url), tls: 'usual' });
    expect(body).toMatchObject({ type: '/problems/source-certificate' });
    expect(body.detail).toContain('does not support SSL');
  });

  it('has to be one', async () => {
    const { status, body } = await attempt({ tls: 'own', authority: 'harbour' });
    expect([status, body.errors[0].pointer]).toEqual([422, '/authority']);
    expect((await attempt({ tls: 'own' })).body.errors[0].pointer).toBe('/authority');
  });
});
