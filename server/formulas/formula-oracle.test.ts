import { readFile } from 'node:fs/promises';
import { compile } from '@sorvik/formula/compile';
import type { Compiled, Rows, Scope, SqlPrinter } from '@sorvik/formula/compiled';
import { sqlTypes } from '@sorvik/formula/compiled';
import type { Value, ValueType } from '@sorvik/formula/expression';
import { parseFormula } from '@sorvik/formula/parse';
import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';

const types: Record<string, ValueType> = {
  n: 'number',
  m: 'number',
  t: 'text',
  u: 'text',
  b: 'boolean',
  d: 'date',
  e: 'date',
  w: 'datetime',
};
const columns = Object.keys(types);
const scope: Scope = {
  column: (name) => (types[name] ? { ref: name, type: types[name] } : undefined),
  names: () => columns,
  lever: (name) => (name === 'routes' ? { type: 'text', list: true } : { type: 'number' }),
  levers: () => ['routes', 'count'],
  windows: true,
};
const levers: Record<string, Value | Value[]> = { count: 3, routes: ['Quel', 'b'] };
const lever = (name: string) => levers[name]!;

type Row = Record<string, Value>;
const rowsOf = (list: readonly Row[]): Rows => ({
  length: list.length,
  column: (ref) => (i) => list[i]![ref]!,
  lever,
  today: '2024-03-05',
});

const number = fc.oneof(
  fc.integer({ min: -60, max: 60 }),
  fc.integer({ min: -400, max: 400 }).map((quarters) => quarters / 4),
  fc.constantFrom(0, 0.1, 0.285, 1.005, 2.5, -2.5),
);
const text = fc.oneof(
  fc.constantFrom(
    '',
    'Quel',
    'quel',
    'Q',
    'b',
    'ä',
    'Z',
    'a%b',
    '_',
    ' x ',
    '12.5',
    '2021-02-28',
    '🚢é',
    "it's",
  ),
  fc
    .string({ minLength: 0, maxLength: 5 })
    .map((found) => found.replaceAll('\0', '').replace(/[\ud800-\udfff]/g, '')),
);
const day = fc
  .integer({ min: 0, max: 2500 })
  .map((n) => new Date(Date.UTC(2018, 0, 1 + n)).toISOString().slice(0, 10));
/** Date-times to the millionth of a second, of the first century and of ours, as fields have them. */
const moment = fc
  .tuple(
    fc.constantFrom(
      '0001-01-01',
      '0044-03-15',
      '0099-12-31',
      '1969-07-20',
      '2020-02-29',
      '2024-03-05',
      '9999-12-31',
    ),
    fc.integer({ min: 0, max: 86_399 }),
    fc.constantFrom('', '.5', '.25', '.123', '.123456', '.000001', '.9999'),
  )
  .map(
    ([date, seconds, fraction]) =>
      `${date}T${new Date(seconds * 1000).toISOString().slice(11, 19)}${fraction}`,
  );

const maybe = <T extends Value>(of: fc.Arbitrary<T>) => fc.option(of, { freq: 5 });
const row = fc.record({
  n: maybe(number),
  m: maybe(number),
  t: maybe(text),
  u: maybe(text),
  b: maybe(fc.boolean()),
  d: maybe(day),
  e: maybe(day),
  w: maybe(moment),
});

const quoted = (value: string) => `'${value.replaceAll("'", "''")}'`;
const literal = (value: number) => (value < 0 ? `(${value})` : String(value));

/** Formulas of each type, as an author would type them. */
const formulas = fc.letrec<Record<'number' | 'text' | 'boolean' | 'date', string>>((tie) => {
  const n = tie('number');
  const t = tie('text');
  const b = tie('boolean');
  const d = tie('date');
  const form = (...parts: fc.Arbitrary<string>[]) => fc.tuple(...parts);
  const op = (...ops: string[]) => fc.constantFrom(...ops);
  const compare = op('=', '<>', '<', '<=', '>', '>=', 'IS DISTINCT FROM', 'IS NOT DISTINCT FROM');
  const two = (of: fc.Arbitrary<string>) => form(of, compare, of).map(([x, o, y]) => `(${x}) ${o} (${y})`);
  const unit = op('year', 'quarter', 'month', 'week', 'day');
  const size = { depthSize: 'small' as const, withCrossShrink: true };
  return {
    number: fc.oneof(
      size,
      op('n', 'm', ':count', 'NULL'),
      number.map(literal),
      form(n, op('+', '-', '*', '/'), n).map(([x, o, y]) => `(${x} ${o} ${y})`),
      n.map((x) => `-(${x})`),
      form(op('ABS', 'SIGN', 'FLOOR', 'CEIL', 'ROUND', 'SQRT'), n).map(([f, x]) => `${f}(${x})`),
      form(n, op('0', '1', '2', '-1')).map(([x, k]) => `ROUND(${x}, ${k})`),
      form(op('n', 'm', '7'), op('m', '3', '-2', '0.5', '0')).map(([x, y]) => `MOD(${x}, ${y})`),
      form(b, n, n).map(([x, y, z]) => `CASE WHEN ${x} THEN ${y} ELSE ${z} END`),
      form(n, n, n).map(([x, y, z]) => `CASE ${x} WHEN ${y} THEN ${z} END`),
      form(t, t, n, n).map(([x, y, z, w]) => `CASE ${x} WHEN ${y} THEN ${z} WHEN 'Q' THEN 1 ELSE ${w} END`),
      form(op('COALESCE', 'GREATEST', 'LEAST'), n, n).map(([f, x, y]) => `${f}(${x}, ${y}, 1)`),
      form(n, n).map(([x, y]) => `NULLIF(${x}, ${y})`),
      t.map((x) => `CHAR_LENGTH(${x})`),
      t.map((x) => `CAST(${x} AS NUMERIC)`),
      b.map((x) => `CAST(${x} AS INTEGER)`),
      n.map((x) => `CAST(${x} AS INTEGER)`),
      op('w').map((x) => `EXTRACT(SECOND FROM ${x})`),
      form(
        op('YEAR', 'QUARTER', 'MONTH', 'WEEK', 'DAY', 'DOW', 'ISODOW', 'DOY', 'HOUR', 'MINUTE'),
        op('w'),
      ).map(([p, x]) => `EXTRACT(${p} FROM ${x})`),
      form(t, t).map(([x, y]) => `POSITION((${x}) IN (${y}))`),
      form(op('YEAR', 'QUARTER', 'MONTH', 'WEEK', 'DAY', 'DOW', 'ISODOW', 'DOY'), d).map(
        ([p, x]) => `EXTRACT(${p} FROM ${x})`,
      ),
      form(d, d).map(([x, y]) => `((${x}) - (${y}))`),
    ),
    text: fc.oneof(
      size,
      op('t', 'u', 'NULL'),
      text.map(quoted),
      form(t, t).map(([x, y]) => `(${x}) || (${y})`),
      form(op('UPPER', 'LOWER', 'TRIM'), t).map(([f, x]) => `${f}(${x})`),
      form(t, op('-1', '0', '1', '2', '3'), op('0', '1', '4')).map(
        ([x, i, k]) => `SUBSTRING(${x} FROM ${i} FOR ${k})`,
      ),
      form(t, op('1', '2', '9')).map(([x, i]) => `SUBSTRING(${x} FROM ${i})`),
      form(t, op('0', '1', '3', 'm')).map(([x, k]) => `SUBSTRING(${x} FOR ${k})`),
      form(t, op('-1e12', '1e12', 'n'), op('1e12', '2e12', 'm')).map(
        ([x, i, k]) => `SUBSTRING(${x} FROM ${i} FOR ${k})`,
      ),
      form(b, t, t).map(([x, y, z]) => `CASE WHEN ${x} THEN ${y} ELSE ${z} END`),
      form(op('COALESCE', 'GREATEST', 'LEAST'), t, t).map(([f, x, y]) => `${f}(${x}, ${y})`),
      form(t, t).map(([x, y]) => `NULLIF(${x}, ${y})`),
      n.map((x) => `CAST(${x} AS VARCHAR)`),
      b.map((x) => `CAST(${x} AS VARCHAR)`),
      d.map((x) => `CAST(${x} AS VARCHAR)`),
    ),
    boolean: fc.oneof(
      size,
      op('b', 'TRUE', 'FALSE', 'NULL'),
      two(n),
      two(t),
      two(d),
      form(b, op('AND', 'OR'), b).map(([x, o, y]) => `((${x}) ${o} (${y}))`),
      b.map((x) => `NOT (${x})`),
      form(fc.oneof(n, t, d), op('IS NULL', 'IS NOT NULL')).map(([x, o]) => `(${x}) ${o}`),
      form(n, op('', 'NOT '), n, n).map(([x, not, y, z]) => `(${x}) ${not}BETWEEN ${y} AND ${z}`),
      form(t, op('', 'NOT '), t, t).map(([x, not, y, z]) => `(${x}) ${not}BETWEEN ${y} AND ${z}`),
      form(n, op('', 'NOT '), n, n).map(([x, not, y, z]) => `(${x}) ${not}IN (${y}, ${z})`),
      form(t, op('', 'NOT '), t, t).map(([x, not, y, z]) => `(${x}) ${not}IN (${y}, ${z})`),
      form(t, op('', 'NOT '), op("'%'", "'Q%'", "'_'", "'%e%'", "'a\\%b'", "''")).map(
        ([x, not, p]) => `(${x}) ${not}LIKE ${p}`,
      ),
      t.map((x) => `(${x}) = ANY (:routes)`),
    ),
    date: fc.oneof(
      size,
      op('d', 'e'),
      day.map((x) => `DATE '${x}'`),
      form(d, op('+', '-'), op('1', '14', '40'), op('DAY', 'MONTH', 'YEAR')).map(
        ([x, o, k, u]) => `(${x} ${o} INTERVAL '${k}' ${u})`,
      ),
      form(unit, d).map(([u, x]) => `DATE_TRUNC('${u}', ${x})`),
      form(b, d, d).map(([x, y, z]) => `CASE WHEN ${x} THEN ${y} ELSE ${z} END`),
      form(op('COALESCE', 'GREATEST', 'LEAST'), d, d).map(([f, x, y]) => `${f}(${x}, ${y})`),
      op('CAST(t AS DATE)', "CAST('2021-02-29' AS DATE)", "CAST('2020-02-29' AS DATE)"),
    ),
  };
});
/** Functions whose last digit is each machine's own; by themselves, since a comparison would make it a difference. */
const rough = fc
  .tuple(fc.constantFrom('n', 'm', '2.5', '-3', '0'), fc.constantFrom('0', '1', '2', '-1', '0.5', 'm'))
  .chain(([x, y]) =>
    fc.constantFrom(`POWER(${x}, ${y})`, `LN(${x})`, `EXP(${x} / 10)`, `SQRT(ABS(${x})) + LN(${y} + 1)`),
  );
const anyFormula = fc.oneof(rough, formulas.number, formulas.text, formulas.boolean, formulas.date);

/** Windows over rows that have an order without ties by their number. */
const windows = fc
  .tuple(
    fc.constantFrom(
      'RANK()',
      'DENSE_RANK()',
      'PERCENT_RANK()',
      'CUME_DIST()',
      'COUNT(*)',
      'COUNT(n)',
      'SUM(n)',
      'AVG(m)',
      'MIN(t)',
      'MAX(d)',
      'STDDEV_SAMP(n)',
      'VAR_SAMP(m)',
      'COUNT(*) FILTER (WHERE b)',
      'SUM(n) FILTER (WHERE m > 0)',
      'ROW_NUMBER()',
      'NTILE(3)',
      'LAG(n)',
      'LEAD(t, 2)',
      'LAG(d, 1, e)',
      'FIRST_VALUE(t)',
      'LAST_VALUE(n)',
    ),
    fc.constantFrom('', 'PARTITION BY b', 'PARTITION BY t, b', 'PARTITION BY n > 0'),
    fc.constantFrom('n', 'm DESC', 't', 'd DESC NULLS FIRST', 'b, n NULLS FIRST', 'm / 2 + n'),
    fc.constantFrom(
      '',
      '',
      'ROWS BETWEEN 2 PRECEDING AND CURRENT ROW',
      'ROWS BETWEEN UNBOUNDED PRECEDING AND UNBOUNDED FOLLOWING',
      'ROWS BETWEEN 1 FOLLOWING AND 3 FOLLOWING',
    ),
  )
  .map(([call, partition, order, frame]) => {
    const peers = /RANK|CUME|^(COUNT|SUM|AVG|MIN|MAX|STDDEV|VAR)/.test(call) && !frame;
    const by = peers ? order : `${order}, id`;
    return `${call} OVER (${partition} ORDER BY ${by} ${/RANK|CUME|ROW_NUMBER|NTILE|LAG|LEAD/.test(call) ? '' : frame})`;
  });

function compiled(text: string): Compiled {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw new Error(`${text}: ${parsed.problem.message}`);
  return compile(parsed.expression, {
    ...scope,
    column: (name) => (name === 'id' ? { ref: 'id', type: 'number' } : scope.column(name)),
  });
}

describe('a formula means the same here and in PostgreSQL', () => {
  let client: pg.Client;
  beforeAll(async () => {
    client = new pg.Client({ connectionString: inject('databaseUrl') });
    await client.connect();
  });
  afterAll(() => client.end());

  /** What the database makes of formulas, a list for each row. */
  async function asked(all: readonly Compiled[], list: readonly Row[], guarded = false): Promise<Value[][]> {
    const values: unknown[] = [];
    const place = (value: unknown, type: string) => `$${values.push(value)}::${type}`;
    const printer: SqlPrinter = {
      value: (value, type) => place(value, sqlTypes[type]),
      list: (held, type) => place(held, `${sqlTypes[type]}[]`),
      column: (ref) => `"${ref}"`,
      lever,
      ...(guarded ? { guarded: true as const } : {}),
    };
    const outputs = all.map(({ sql, type }) => {
      const text = `(${sql(printer)})`;
      if (type === 'datetime')
        return `regexp_replace(to_char(${text}, 'YYYY-MM-DD"T"HH24:MI:SS.US'), '\\.?0+$', '')`;
      return type === 'date' ? `to_char(${text}, 'YYYY-MM-DD')` : text;
    });
    const table = list.map(
      (each, i) =>
        `(${i}::double precision, ${columns.map((name) => place(each[name], sqlTypes[types[name]!])).join(', ')})`,
    );
    const { rows } = await client.query({
      text: `SELECT ${outputs.join(', ')} FROM (VALUES ${table.join(', ')}) AS r("id", ${columns.map((name) => `"${name}"`).join(', ')}) ORDER BY "id"`,
      values,
      rowMode: 'array',
    });
    return rows;
  }

  async function agree(texts: readonly string[], list: readonly Row[], guarded = false): Promise<void> {
    const all = texts.map(compiled);
    const numbered = list.map((each, id) => ({ ...each, id }));
    const expected = await asked(all, list, guarded);
    all.forEach(({ run }, f) => {
      const read = run(rowsOf(numbered));
      list.forEach((each, i) => {
        const wanted = expected[i]![f]!;
        const found = read(i);
        const told = `${texts[f]} of ${JSON.stringify(each)}`;
        if (typeof wanted === 'number' && typeof found === 'number')
          expect(Math.abs(found - wanted), told).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(wanted)));
        else expect(found, told).toEqual(wanted);
      });
    });
  }

  it('in every operator and function, three-valued logic included', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(anyFormula, { minLength: 12, maxLength: 12 }),
        fc.array(row, { minLength: 4, maxLength: 4 }),
        (texts, list) => agree(texts, list),
      ),
      { numRuns: 120 },
    );
  }, 120_000);

  it('of date-times to the millionth of a second, in years of one digit and of four', async () => {
    const list = fc.sample(row, { numRuns: 60, seed: 11 });
    await agree(
      [
        ...['year', 'quarter', 'month', 'week', 'day', 'hour', 'minute'].map(
          (unit) => `DATE_TRUNC('${unit}', w)`,
        ),
        ...['1', '14', '400'].flatMap((n) =>
          ['DAY', 'MONTH', 'YEAR', 'HOUR', 'SECOND'].map((unit) => `w + INTERVAL '${n}' ${unit}`),
        ),
        "w - INTERVAL '1' DAY",
        'CAST(w AS DATE)',
        'w = CAST(CAST(w AS DATE) AS TIMESTAMP)',
        'w - d',
        "w > TIMESTAMP '2020-02-29 00:00:00.5'",
      ],
      list,
    );
  }, 60_000);

  it('where a figure is too large, a text is no number, or a pattern is none: there it is null', async () => {
    await client.query('CREATE SCHEMA IF NOT EXISTS sorvik');
    const file = new URL('../migrations/0003_guarded_arithmetic.sql', import.meta.url);
    for (const statement of (await readFile(file, 'utf8')).split('--> statement-breakpoint'))
      await client.query(statement.replace('CREATE FUNCTION', 'CREATE OR REPLACE FUNCTION'));
    const huge = [
      1e308,
      -1e308,
      1.7976931348623157e308,
      1e200,
      1e-200,
      5e-324,
      2.5,
      0,
      -3,
      9007199254740991,
      null,
    ];
    const texts = [
      '1e100',
      '1e308',
      '1e309',
      '-1e400',
      '1e-400',
      '1e-323',
      '12',
      'a',
      'a\\',
      '\\\\',
      `1${'0'.repeat(400)}`,
      null,
    ];
    const list = huge.flatMap((n) =>
      huge.slice(0, 6).map(
        (m, k): Row => ({
          n,
          m,
          t: texts[(k + huge.indexOf(n)) % texts.length]!,
          u: texts[k]!,
          b: null,
          d: '9999-12-31',
          e: '0001-01-01',
          w: '9999-12-31T23:59:59.999999',
        }),
      ),
    );
    await agree(
      [
        'n + m',
        'n - m',
        'n * m',
        'n / m',
        'POWER(n, m)',
        'POWER(n, 3)',
        'n * n * n / n',
        'ROUND(n)',
        'ROUND(9007199254740991)',
        'ROUND(n, 2)',
        'ROUND(n, 1e9)',
        'CAST(n AS INTEGER)',
        'MOD(n, 7)',
        'CAST(t AS NUMERIC)',
        't LIKE u',
        "t LIKE 'a\\'",
        "t NOT LIKE 'a\\\\'",
        "d + INTERVAL '1' DAY",
        "e - INTERVAL '400' YEAR",
        "d + INTERVAL '999999999' YEAR",
        "w + INTERVAL '1' SECOND",
        'SUBSTRING(t FROM n FOR m)',
        'SUBSTRING(t FROM n)',
      ],
      list,
      true,
    );
  }, 60_000);

  it('in windows', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(windows, { minLength: 8, maxLength: 8 }),
        fc.array(row, { minLength: 1, maxLength: 12 }),
        (texts, list) => agree(texts, list),
      ),
      { numRuns: 60 },
    );
  }, 120_000);

  it('nested as deep as can be written, in SQL of a size that can be sent', async () => {
    const nested = (open: string, close: string, inner: string, depth = 90) =>
      open.repeat(depth) + inner + close.repeat(depth);
    const deep = [
      nested('SQRT(', ')', 'ABS(n)'),
      nested('POWER(1 + ', ', 0.5)', 'ABS(m)'),
      nested('EXP(LN(', '))', '2 + ABS(n)', 40),
      nested('(', ' BETWEEN FALSE AND TRUE)', '(n > m)'),
      nested('(', ' IN (b, n > m))', '(n > m)'),
      nested('CASE ', ' WHEN 1 THEN 2 WHEN 2 THEN 1 ELSE 0 END', 'SIGN(n)'),
      nested('CAST(CAST(', ' AS VARCHAR) AS DATE)', 'd', 40),
    ];
    for (const text of deep)
      expect(
        compiled(text).sql({ value: () => '$1', list: () => '$1', column: (ref) => ref, lever }).length,
      ).toBeLessThan(30_000);
    await agree(deep, [
      { n: 3, m: -0.5, t: 'Q', u: null, b: true, d: '2020-02-29', e: null, w: null },
      { n: null, m: 2, t: null, u: null, b: null, d: null, e: null, w: null },
    ]);
  });

  it('hostile texts are values, never words of a query', async () => {
    const hostile = `'; DROP TABLE sorvik.boards; --`;
    await agree(
      [`t || ${quoted(hostile)}`, `UPPER(${quoted(hostile)}) = t`],
      [{ n: null, m: null, t: hostile, u: null, b: null, d: null, e: null, w: null }],
    );
  });
});
