import { describe, expect, it } from 'vitest';
import { compile } from './compile';
import type { Rows, Scope } from './compiled';
import { FormulaError } from './compiled';
import type { Value, ValueType } from './expression';
import { parseFormula } from './parse';

const types: Record<string, ValueType> = {
  n: 'number',
  m: 'number',
  t: 'text',
  b: 'boolean',
  d: 'date',
  at: 'datetime',
};
const scope: Scope = {
  column: (name) => (types[name] ? { ref: name, type: types[name] } : undefined),
  names: () => Object.keys(types),
  lever: (name) =>
    name === 'count'
      ? { type: 'number' }
      : name === 'routes'
        ? { type: 'text', list: true }
        : `There is no lever :${name}.`,
  levers: () => ['count', 'routes'],
  windows: true,
};
const rowsOf = (list: Record<string, Value>[]): Rows => ({
  length: list.length,
  column: (ref) => (i) => list[i]![ref] ?? null,
  lever: (name) => (name === 'count' ? 2 : ['Quel', 'Harl']),
  today: '2024-03-05',
});
const compiled = (text: string) => {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw new Error(parsed.problem.message);
  return compile(parsed.expression, scope);
};
const all = (text: string, list: Record<string, Value>[]) => {
  const read = compiled(text).run(rowsOf(list));
  return list.map((_, i) => read(i));
};
const one = (text: string, row: Record<string, Value> = {}) => all(text, [row])[0];
const problem = (text: string): string => {
  try {
    compiled(text);
    return 'nothing is wrong';
  } catch (error) {
    if (error instanceof FormulaError) {
      expect(error.at.to).toBeGreaterThan(error.at.from);
      return `${error.at.from}: ${error.message}`;
    }
    throw error;
  }
};

describe('values', () => {
  it.each<[string, Value]>([
    ['1 + 2 * 3', 7],
    ['7 / 2', 3.5],
    ['1 / 0', null],
    ['1e308 * 10', null],
    ['NULL + 1', null],
    ['TRUE OR NULL', true],
    ['FALSE AND NULL', false],
    ['TRUE AND NULL', null],
    ['NOT NULL', null],
    ['2 IN (1, NULL)', null],
    ['2 IN (2, NULL)', true],
    ['2 NOT IN (1, 3)', true],
    ['NULL IS NULL', true],
    ['NULL IS DISTINCT FROM 1', true],
    ['5 BETWEEN 1 AND 5', true],
    ["'Quel' LIKE 'Q_e%'", true],
    ["'a.c' LIKE 'abc'", false],
    ["'50%' LIKE '50\\%'", true],
    ['CASE WHEN NULL THEN 1 WHEN TRUE THEN 2 ELSE 3 END', 2],
    ["CASE 3 WHEN 1 THEN 'a' END", null],
    ['COALESCE(NULL, NULL, 4)', 4],
    ['NULLIF(3, 3)', null],
    ['GREATEST(1, NULL, 5)', 5],
    ['LEAST(2, 1)', 1],
    ['ROUND(2.5)', 3],
    ['ROUND(-2.5)', -3],
    ['ROUND(0.285, 2)', 0.29],
    ['ROUND(1234, -2)', 1200],
    ['SQRT(-1)', null],
    ['LN(0)', null],
    ['POWER(-8, 0.5)', null],
    ['MOD(-7, 3)', -1],
    ["UPPER('aé') || LOWER('ÀB')", 'AÉàb'],
    ["SUBSTRING('héllo' FROM 2 FOR 3)", 'éll'],
    ["POSITION('l' IN 'hello')", 3],
    ["CHAR_LENGTH('🚢a')", 2],
    ["CAST('12.5' AS NUMERIC) + CAST('x' AS NUMERIC)", null],
    ["CAST(' 12.5' AS NUMERIC)", 12.5],
    ['CAST(0.1 + 0.2 AS VARCHAR)', '0.30000000000000004'],
    ["EXTRACT(QUARTER FROM DATE '2021-05-01')", 2],
    ["EXTRACT(WEEK FROM DATE '2021-01-03')", 53],
    ["DATE_TRUNC('month', DATE '2021-05-17')", '2021-05-01'],
    ["DATE '2021-01-31' + INTERVAL '1' MONTH", '2021-02-28'],
    ["DATE '2021-03-01' - DATE '2021-02-01'", 28],
    ["TIMESTAMP '2021-03-01 08:30:00' + INTERVAL '45' MINUTES", '2021-03-01T09:15:00'],
    ['CURRENT_DATE', '2024-03-05'],
    [':count * 2', 4],
    ["'Harl' = ANY (:routes)", true],
    ["'Pellin' = ANY (:routes)", false],
  ])('%s', (text, value) => {
    expect(one(text)).toEqual(value);
  });
});

describe('windows', () => {
  const rows = [
    { t: 'a', n: 10 },
    { t: 'a', n: 30 },
    { t: 'a', n: 30 },
    { t: 'b', n: 5 },
    { t: 'b', n: null },
  ];
  it.each<[string, Value[]]>([
    ['RANK() OVER (ORDER BY n DESC)', [3, 1, 1, 4, 5]],
    ['DENSE_RANK() OVER (ORDER BY n DESC)', [2, 1, 1, 3, 4]],
    ['RANK() OVER (PARTITION BY t ORDER BY n)', [1, 2, 2, 1, 2]],
    ['RANK() OVER (ORDER BY n NULLS FIRST)', [3, 4, 4, 2, 1]],
    ['ROW_NUMBER() OVER (ORDER BY n)', [2, 3, 4, 1, 5]],
    ['PERCENT_RANK() OVER (ORDER BY n)', [0.25, 0.5, 0.5, 0, 1]],
    ['CUME_DIST() OVER (ORDER BY n)', [0.4, 0.8, 0.8, 0.2, 1]],
    ['NTILE(2) OVER (ORDER BY n)', [1, 1, 2, 1, 2]],
    ['LAG(n) OVER (ORDER BY n)', [5, 10, 30, null, 30]],
    ['LEAD(n, 1, -1) OVER (PARTITION BY t ORDER BY n)', [30, 30, -1, null, -1]],
    ['SUM(n) OVER (PARTITION BY t)', [70, 70, 70, 5, 5]],
    ['SUM(n) OVER (ORDER BY n)', [15, 75, 75, 5, 75]],
    ['SUM(n) OVER (ORDER BY n ROWS BETWEEN 1 PRECEDING AND CURRENT ROW)', [15, 40, 60, 5, 30]],
    ['COUNT(*) FILTER (WHERE n > 5) OVER (PARTITION BY t)', [3, 3, 3, 0, 0]],
    ['100 * n / SUM(n) OVER ()', [40 / 3, 40, 40, 20 / 3, null]],
    ['FIRST_VALUE(n) OVER (PARTITION BY t ORDER BY n DESC)', [30, 30, 30, 5, 5]],
    ['RANK() OVER (ORDER BY n DESC) <= :count', [false, true, true, false, false]],
  ])('%s', (text, values) => {
    const found = all(text, rows);
    found.forEach((value, i) => {
      const wanted = values[i]!;
      if (typeof wanted === 'number') expect(value).toBeCloseTo(wanted, 9);
      else expect(value).toBe(wanted);
    });
  });
});

describe('what does not fit is named, where it stands', () => {
  it.each([
    ["1 + 'a'", '4: What follows + has to be a number, and this is a text.'],
    ['nn > 1', '0: There is no field "nn" here. Is n meant?'],
    ['RUOND(n)', '0: There is no function RUOND. Is ROUND meant?'],
    ['RANK()', '0: RANK looks at other rows: it needs OVER (ORDER BY ..).'],
    ['RANK() OVER ()', '0: RANK needs an order: OVER (ORDER BY ..).'],
    ['n > :cout', '4: There is no lever :cout. Is :count meant?'],
    ['t = :routes', '4: :routes holds several values: ask for one of them, = ANY (:routes).'],
    ['n = ANY (:routes)', '0: :routes holds a text, and what is compared is a number.'],
    ['SUM(n)', '0: SUM combines several rows, but this formula sees one row at a time. Use it in a measure.'],
    ["d + INTERVAL '1' DAY > n", '23: What is compared: a date stands beside a number.'],
    ["CASE WHEN b THEN 1 ELSE 'x' END", '24: What CASE gives: a number stands beside a text.'],
    ['n IN 3', '5: What follows IN stands in brackets: IN (1, 2).'],
    [
      'EXTRACT(fortnight FROM d)',
      '8: EXTRACT takes one of YEAR, QUARTER, MONTH, WEEK, DAY, DOW, ISODOW, DOY, HOUR, MINUTE, SECOND.',
    ],
    ['NOT n', '4: What follows NOT has to be true or false, and this is a number.'],
  ])('%s', (text, message) => {
    expect(problem(text)).toBe(message);
  });
});
