import type { Chart } from '@sorvik/core/board/chart';
import { keepValues } from '@sorvik/core/conditions/keep-values';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import type { Dimension, Grain } from '@sorvik/core/data/dimension';
import type { Readings } from '@sorvik/core/data/readings';
import type { KeyValue } from '@sorvik/core/data/values';
import { asksPerMove, cubeQuery, cubeRequest, requestLevels } from '@sorvik/core/pipeline/cube-request';
import { readingsOf } from '@sorvik/core/pipeline/readings-of';
import { totalOf } from '@sorvik/core/pipeline/shares';
import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let dataset: { id: string; version: number };
let table: string;

/** Rows with every kind of gap: missing keys, missing figures, groups of nothing but missing figures. */
function sampleCsv(): string {
  const quays = ['Quel', 'Harl', 'Ostrin', ''];
  const lines = Array.from({ length: 400 }, (_, i) => {
    const quay = quays[(i * 7) % 4];
    const day = new Date(Date.UTC(2020, 0, 1 + ((i * 13) % 900))).toISOString().slice(0, 10);
    const n = i % 5 === 0 || quay === 'Ostrin' ? '' : String(((i * 37) % 101) - 50);
    return [quay, i % 11 === 0 ? '' : day, i % 2 ? 'yes' : 'no', i % 3, n].join(',');
  });
  return `quay,day,open,berth,n\n${lines.join('\n')}\n`;
}

beforeAll(async () => {
  t = await testApp();
  const { dataset: id } = await t.importCsv(sampleCsv(), 'Berths.csv');
  dataset = (await t.json(`/api/datasets/${id}`)).body;
  const { rows } = await t.database.pool.query('SELECT number FROM sorvik.datasets WHERE id = $1', [id]);
  table = `data.d_${rows[0].number}`;
});
afterAll(() => t.close());

const fetchCube = async (query: string) => {
  const response = await t.request(`/api/datasets/${dataset.id}/cube?${query}`);
  expect(response.status, await response.clone().text()).toBe(200);
  return cubeFromArrow(new Uint8Array(await response.arrayBuffer()));
};

const keySql = (field: string, grain?: Grain) =>
  grain ? `date_trunc('${grain}', "${field}")::date` : `"${field}"`;
const measureSql = { sum: 'sum(n)', average: 'avg(n)', count: 'count(n)', min: 'min(n)', max: 'max(n)' };

/** The same question put to PostgreSQL directly. */
async function oracle(
  by: { field: string; grain?: Grain },
  aggregate: keyof typeof measureSql,
  filters: (Dimension & { values: KeyValue[] })[],
) {
  const where =
    filters.map((f, i) => `${keySql(f.field, f.grain)}::text = ANY ($${i + 1}::text[])`).join(' AND ') ||
    'true';
  const { rows } = await t.database.pool.query(
    `SELECT ${keySql(by.field, by.grain)} AS k, ${measureSql[aggregate]}::float8 AS v FROM ${table} WHERE ${where} GROUP BY 1`,
    filters.map((f) => f.values.map(String)),
  );
  return new Map<KeyValue, number | null>(rows.map((row) => [row.k, row.v]));
}

const asMap = (readings: Readings) =>
  new Map(
    readings.category.map((key, i) => [key, Number.isNaN(readings.value[i]!) ? null : readings.value[i]!]),
  );

describe('shares', () => {
  const year = { field: 'day', grain: 'year' } as const;
  const open = { field: 'open', colours: 'own' } as const;
  it.each([
    ['everything', '', false],
    ['kept', 'sum(sum(n)) OVER ()', true],
    ['category', "sum(sum(n)) OVER (PARTITION BY date_trunc('year', day))", true],
    ['series', 'sum(sum(n)) OVER (PARTITION BY open)', true],
  ] as const)('of %s are what a window over groups gives', async (share, window, filtered) => {
    const kept: [string, KeyValue[]] = ['quay', ['Quel', 'Harl']];
    const chart = {
      ...chartOf(year, 'sum'),
      split: open,
      measure: { aggregate: 'sum', field: 'n', share } as const,
    };
    const request = cubeRequest(chart, { version: 1, title: '', levers: [], charts: [] }, fullEngine);
    const cube = await fetchCube(
      cubeQuery({ ...request, keys: [...request.keys, { field: 'quay' }] }, dataset.version),
    );
    const filters = [keepValues({ field: 'quay' }, kept[1])];
    const readings = readingsOf(cube, chart, filters);
    const whole = filtered ? window : `(SELECT sum(n) FROM ${table})`;
    const { rows } = await t.database.pool.query(
      `SELECT date_trunc('year', day)::date AS k, open AS s, (sum(n) / nullif(${whole}, 0)::float8) AS v
        FROM ${table} WHERE quay = ANY ($1) GROUP BY date_trunc('year', day), open`,
      [kept[1]],
    );
    expect(readings.length).toBe(rows.length);
    const found = new Map(
      readings.category.map((key, i) => [
        `${key} ${readings.series[readings.seriesOf[i]!]}`,
        readings.value[i]!,
      ]),
    );
    for (const { k, s, v } of rows) expect(found.get(`${k} ${s}`)).toBeCloseTo(v, 9);
  });
});

describe('aggregates of expressions and of some rows', () => {
  const year = { field: 'day', grain: 'year' } as const;
  const measure = (text: string): Chart['measure'] => ({ aggregate: 'formula', text });
  const none = {
    engine: fullEngine,
    lever: () => undefined,
    typeOf: () => 'text' as const,
    read: () => null,
    today: '2021-01-01',
  };
  it.each([
    ['SUM(n) FILTER (WHERE open)', 'sum(n) FILTER (WHERE open)'],
    ['AVG(n * 2 - berth)', 'avg(n * 2 - berth)'],
    [
      "100 * COUNT(*) FILTER (WHERE n > 0 AND quay <> 'Quel') / COUNT(n)",
      "100 * count(*) FILTER (WHERE n > 0 AND quay <> 'Quel') / nullif(count(n), 0)::float8",
    ],
    [
      'MAX(CASE WHEN open THEN n ELSE -n END) - MIN(ABS(n)) FILTER (WHERE EXTRACT(MONTH FROM day) <= 6)',
      'max(CASE WHEN open THEN n ELSE -n END) - min(abs(n)) FILTER (WHERE extract(month from day) <= 6)',
    ],
    ["COUNT(CASE WHEN quay LIKE '%r%' THEN 1 END)", "count(CASE WHEN quay LIKE '%r%' THEN 1 END)"],
  ])('%s', async (text, sql) => {
    const chart = { ...chartOf(year, 'sum'), measure: measure(text) };
    // Made with a second key, so that what comes to the page has to be rolled up there.
    const request = cubeRequest(chart, { version: 1, title: '', levers: [], charts: [] }, fullEngine);
    const cube = await fetchCube(
      cubeQuery({ ...request, keys: [...request.keys, { field: 'quay' }] }, dataset.version),
    );
    const found = asMap(readingsOf(cube, { ...chart, formulas: none }, []));
    const { rows } = await t.database.pool.query(
      `SELECT date_trunc('year', day)::date AS k, (${sql})::float8 AS v FROM ${table} GROUP BY 1`,
    );
    expect(found.size).toBe(rows.length);
    for (const { k, v } of rows) {
      if (v === null) expect(found.get(k)).toBeNull();
      else expect(found.get(k)).toBeCloseTo(v, 9);
    }
  });
  it.each([
    ['COUNT(DISTINCT quay)', 'count(DISTINCT quay)'],
    ['COUNT(DISTINCT n / 2) FILTER (WHERE open) * 2', 'count(DISTINCT n / 2.0) FILTER (WHERE open) * 2'],
    ['PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY n)', 'percentile_cont(0.5) WITHIN GROUP (ORDER BY n)'],
    [
      'STDDEV_SAMP(n) / COUNT(*) - VAR_SAMP(berth) + AVG(DISTINCT n)',
      'stddev_samp(n) / count(*) - var_samp(berth) + avg(DISTINCT n)',
    ],
  ])('that cannot be added up are asked for with what is kept: %s', async (text, sql) => {
    const chart = {
      ...chartOf(year, 'sum'),
      split: { field: 'open', colours: 'own' as const },
      measure: measure(text),
      order: { by: 'value', direction: 'descending' } as const,
    };
    const board = { version: 1 as const, title: '', levers: [], charts: [] };
    const kept = [
      { field: 'quay', values: ['Quel', 'Harl'] },
      { field: 'day', grain: 'month' as const, ranges: [['2020-02-01', '2021-05-01']] as [string, string][] },
      {
        field: 'berth',
        ranges: [
          [0, 0],
          [2, 5],
        ] as [number, number][],
      },
    ];
    const request = cubeRequest(chart, board, fullEngine);
    expect(asksPerMove(request)).toBe(true);
    const levels = await Promise.all(
      requestLevels(request).map((level) => fetchCube(cubeQuery(level, dataset.version, kept))),
    );
    const cube = { ...levels[0]!, levels };
    // The filters are the database's: these here are not applied again.
    const readings = readingsOf(cube, { ...chart, formulas: none }, [
      keepValues({ field: 'quay' }, ['Quel']),
    ]);
    const where = `quay IN ('Quel', 'Harl') AND berth IN (0, 2) AND date_trunc('month', day) BETWEEN '2020-02-01' AND '2021-05-01'`;
    const ask = async (keys: string) =>
      (
        await t.database.pool.query(
          `SELECT ${keys}, (${sql})::float8 AS v FROM ${table} WHERE ${where} GROUP BY ${keys.replace(/ AS \w+/g, '')} ORDER BY v DESC NULLS LAST`,
        )
      ).rows;
    const expected = await ask(`date_trunc('year', day)::date AS k, open`);
    expect(readings.length).toBe(expected.length);
    for (const { k, open, v } of expected) {
      const i = readings.category.findIndex(
        (key, r) => key === k && readings.series[readings.seriesOf[r]!] === open,
      );
      if (v === null) expect(readings.value[i]).toBeNaN();
      else expect(readings.value[i]).toBeCloseTo(v, 9);
    }
    // Places stand by the figure of the whole year, which is not the sum of its parts.
    const whole = await ask(`date_trunc('year', day)::date AS k`);
    expect(readings.places).toEqual(whole.map(({ k }) => k));
    const [{ v: total }] = (await ask('1 AS one')) as [{ v: number }];
    expect(totalOf(cube, chart.measure, [], none)).toBeCloseTo(total, 9);
  });
  it('what is to be kept is checked', async () => {
    const ask = async (keep: string) => {
      const query = new URLSearchParams({ version: String(dataset.version), aggregate: 'count', keep });
      return t.json(`/api/datasets/${dataset.id}/cube?${query}`);
    };
    for (const keep of [
      '{',
      'null',
      '{"field":"quai","values":[]}',
      '{"field":"quay"}',
      '{"field":"quay","values":[{}]}',
      '{"field":"day","grain":"hour","values":[]}',
      '{"field":"day","ranges":[["x"]]}',
      '{"field":"day","grain":"month","ranges":[["x","y"]]}',
      '{"field":"berth","values":["1; DROP TABLE x"]}',
    ]) {
      const { status } = await ask(keep);
      expect([keep, status]).toEqual([keep, 422]);
    }
  });
  it('pass over rows in which an expression has no result', async () => {
    const query = new URLSearchParams({
      version: String(dataset.version),
      aggregate: '["count",null,"n * 1E300 * 1E300",null]',
    });
    const response = await t.request(`/api/datasets/${dataset.id}/cube?${query}`);
    expect(response.status).toBe(200);
    const { rows } = await t.database.pool.query(
      `SELECT count(*) FILTER (WHERE n = 0) AS n FROM data.d_${(await t.database.pool.query('SELECT number FROM sorvik.datasets WHERE id = $1', [dataset.id])).rows[0].number}`,
    );
    expect(cubeFromArrow(new Uint8Array(await response.arrayBuffer())).partials[0]!.values[0]).toBe(
      rows[0].n,
    );
  });

  it('are refused where they cannot be computed', async () => {
    const ask = async (partial: string) => {
      const query = new URLSearchParams({ version: String(dataset.version), aggregate: partial });
      return t.json(`/api/datasets/${dataset.id}/cube?${query}`);
    };
    const wrong: [string, string][] = [
      ['["sum",null,"quay",null]', 'has to be a number'],
      ['["sum","n","n",null]', 'not both'],
      ['["count",null,null,"n"]', 'has to be true or false'],
      ['["count",null,null,"1; DROP TABLE x"]', 'Unexpected'],
      ['["count",{}]', 'is no aggregate'],
      ['["count"', 'is no aggregate'],
      ['["nonAdditive",null,"n + 1",null]', 'this is no aggregate'],
      ['["nonAdditive",null,"COUNT(DISTINCT nn)",null]', 'Is n meant?'],
      ['["nonAdditive",null,"COUNT(*) OVER ()",null]', 'sees one row at a time'],
      ['["nonAdditive",null,"PG_SLEEP(9)",null]', 'takes no rows together'],
    ];
    for (const [partial, says] of wrong) {
      const { status, body } = await ask(partial);
      expect([partial, status]).toEqual([partial, 422]);
      expect(body.detail).toContain(says);
    }
  });
});

const chartOf = (by: Chart['by'], aggregate: keyof typeof measureSql): Chart => ({
  id: 'c',
  form: 'bars',
  dataset: dataset.id,
  by,
  measure: { aggregate, field: 'n' },
  order: { by: 'key', direction: 'ascending' },
  cues: [],
  guides: [],
  touches: [],
});

describe('a cube rolled up in the browser', () => {
  const dimensions = fc.constantFrom<{ field: string; grain?: Grain }>(
    { field: 'quay' },
    { field: 'open' },
    { field: 'berth' },
    ...(['year', 'quarter', 'month', 'week', 'day'] as const).map((grain) => ({ field: 'day', grain })),
    { field: 'day' },
  );

  it('says what PostgreSQL says, whatever is filtered', async () => {
    await fc.assert(
      fc.asyncProperty(
        dimensions,
        dimensions,
        fc.constantFrom('sum', 'average', 'count', 'min', 'max') as fc.Arbitrary<keyof typeof measureSql>,
        fc.array(fc.nat(40), { maxLength: 6 }),
        async (by, filterDimension, aggregate, picks) => {
          const chart = chartOf(by, aggregate);
          const request = cubeRequest(
            chart,
            { version: 1, title: '', levers: [], charts: [chart] },
            fullEngine,
          );
          if (
            !request.keys.some(
              (key) => key.field === filterDimension.field && key.grain === filterDimension.grain,
            )
          )
            request.keys.push(filterDimension);
          const cube = await fetchCube(cubeQuery(request, dataset.version));
          const offered = cube.dimensions.find(
            (d) => d.field === filterDimension.field && d.grain === filterDimension.grain,
          )!.values;
          const values = [...new Set(picks.map((pick) => offered[pick % offered.length]!))];
          const filters = values.length ? [{ ...filterDimension, values }] : [];
          const expected = await oracle(by, aggregate, filters);
          const actual = asMap(
            readingsOf(
              cube,
              chart,
              filters.map((filter) => keepValues(filter, filter.values)),
            ),
          );
          expect([...actual.keys()].map(String).sort()).toEqual([...expected.keys()].map(String).sort());
          for (const [key, value] of expected) {
            if (value === null) expect(actual.get(key)).toBeNull();
            else expect(actual.get(key)).toBeCloseTo(value, 9);
          }
        },
      ),
      { numRuns: 120 },
    );
  });
});

it("knows the data's own order", async () => {
  const chart = {
    ...chartOf({ field: 'quay' }, 'sum'),
    order: { by: 'data', direction: 'ascending' } as const,
  };
  const cube = await fetchCube(
    cubeQuery(
      cubeRequest(chart, { version: 1, title: '', levers: [], charts: [chart] }, fullEngine),
      dataset.version,
    ),
  );
  expect(readingsOf(cube, chart, []).category).toEqual(['Quel', null, 'Ostrin', 'Harl']);
});

describe('a request that cannot be met', () => {
  it.each([
    ['an unknown field', 'key=quai&aggregate=count', '/key', 'did you mean "quay"?'],
    ['a sum of text', 'key=quay&aggregate=sum.quay', '/aggregate', 'needs numbers'],
    ['a grain on a number', 'key=n.month&aggregate=count', '/key', 'is not a date'],
    ['an unknown grain', "key=day.month'); DROP TABLE x; --&aggregate=count", '/key', 'is no date unit'],
    ['an unknown aggregate', 'key=quay&aggregate=median.n', '/aggregate', 'is no aggregate'],
    ['a name in quotes', 'key=quay"&aggregate=count', '/key', 'there is no field'],
    ['no aggregate', 'key=quay', '/aggregate', ''],
  ])('%s', async (_, query, pointer, message) => {
    const { status, body } = await t.json(
      `/api/datasets/${dataset.id}/cube?version=${dataset.version}&${encodeURI(query)}`,
    );
    expect(status).toBe(422);
    expect(body.errors[0].pointer).toBe(pointer);
    expect(body.detail).toContain(message);
  });

  it('is for another version', async () => {
    const { status, body } = await t.json(
      `/api/datasets/${dataset.id}/cube?version=1&key=quay&aggregate=count`,
    );
    expect(status).toBe(409);
    expect(body.version).toBe(dataset.version);
  });
});

it('answers with as many combinations as one picture can have', async () => {
  const many = 300_000;
  const csv = `a,n\n${Array.from({ length: many }, (_, i) => `a${i},${i}`).join('\n')}\n`;
  const { dataset: id } = await t.importCsv(csv, 'Wide.csv');
  const { version } = (await t.json(`/api/datasets/${id}`)).body;
  const answer = await t.request(`/api/datasets/${id}/cube?version=${version}&key=a&aggregate=sum.n`);
  expect(answer.status).toBe(200);
  const cube = cubeFromArrow(new Uint8Array(await answer.arrayBuffer()));
  expect(cube.cells).toBe(many);
  expect(new Set(cube.dimensions[0]!.values).size).toBe(many);
  expect(cube.partials[0]!.values.reduce((sum, value) => sum + value, 0)).toBe((many * (many - 1)) / 2);
});

describe('how large a cube would be', () => {
  const cells = async (...keys: string[]) => {
    const query = [`version=${dataset.version}`, ...keys.map((key) => `key=${key}`)].join('&');
    const { status, body } = await t.json(`/api/datasets/${dataset.id}/cube/size?${query}`);
    expect(status).toBe(200);
    return body.cells as number;
  };
  it('is how many combinations occur', async () => {
    expect(await cells()).toBe(1);
    // Rows without a quay are a group of their own.
    expect(await cells('quay')).toBe(4);
    for (const keys of [['quay', 'open'], ['day.month'], ['quay', 'day.year', 'berth']])
      expect(await cells(...keys), keys.join()).toBe(
        (
          await fetchCube(
            [`version=${dataset.version}`, 'aggregate=count', ...keys.map((key) => `key=${key}`)].join('&'),
          )
        ).cells,
      );
  });
  it('refuses what is no key, and another version', async () => {
    const at = (query: string) => t.json(`/api/datasets/${dataset.id}/cube/size?${query}`);
    expect((await at(`version=${dataset.version}&key=nothing`)).status).toBe(422);
    expect((await at(`version=${dataset.version - 1}&key=quay`)).status).toBe(409);
  });
});
