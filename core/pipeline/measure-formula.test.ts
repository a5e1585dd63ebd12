import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import type { Measure } from '../board/measure';
import { keepValues } from '../conditions/keep-values';
import { leverReader } from '../levers/formula-levers';
import type { NumberLever } from '../levers/number';
import { board, chart, cube, dataset, positionsAt } from '../testing/fixtures';
import { formulaFigures, formulaPartials, type MeasureFormulas, measureProblem } from './measure-formula';
import { readingsOf } from './readings-of';
import { totalOf } from './shares';

const change: NumberLever = {
  kind: 'number',
  id: 'fare-change',
  name: 'Fare change',
  min: -50,
  max: 50,
  step: 1,
  start: 10,
  outside: 'nearest',
  clearing: 'start',
};
const withLever: Board = { ...board, levers: [...board.levers, change] };
const formulasAt = (position: number): MeasureFormulas => {
  const names = {
    engine: fullEngine,
    lever: (id: string) => withLever.levers.find((lever) => lever.id === id),
    levers: withLever.levers,
    typeOf: () => 'text' as const,
  };
  const positionOf = positionsAt(withLever.levers, { 'fare-change': position });
  return { ...names, read: leverReader(names, positionOf), today: '2024-11-30' };
};
const formula = (text: string): Measure => ({ aggregate: 'formula', text });
const read = (text: string, position = 10, years: string[] = []) => {
  const order = { by: 'key', direction: 'ascending' } as const;
  const filters = years.length ? [keepValues({ field: 'day', grain: 'year' }, years)] : [];
  const { category, value } = readingsOf(
    cube,
    { by: chart.by, measure: formula(text), order, formulas: formulasAt(position) },
    filters,
  );
  return Object.fromEntries(category.map((key, i) => [String(key), value[i]]));
};

describe('a measure formula', () => {
  it('is put together from aggregates after the filters', () => {
    // Boats: Quel 30 + 10 in 5 rows with boats, Harl 20 in 2 (and two rows without), Ostrin 25 in 5.
    expect(read('SUM(boats) / COUNT(boats)')).toEqual({ Quel: 8, Harl: 10, Ostrin: 5, null: 7 });
    expect(read('AVG(boats)')).toEqual({ Quel: 8, Harl: 10, Ostrin: 5, null: 7 });
    expect(read('MAX(boats) - MIN(boats)')).toEqual({ Quel: 11, Harl: 0, Ostrin: 7, null: 0 });
    expect(read('AVG(boats)', 10, ['2024-01-01'])).toEqual({ Quel: 5, Harl: Number.NaN, Ostrin: 5 });
  });
  it('takes a lever', () => {
    expect(read('SUM(boats) * (1 + :fare_change / 100)', 10)).toEqual({
      Quel: 44,
      Harl: 22,
      Ostrin: 27.500000000000004,
      null: 7.700000000000001,
    });
    expect(read('SUM(boats) * (1 + :fare_change / 100)', 0).Quel).toBe(40);
  });
  it('is null where something in it is, and where it divides by zero', () => {
    expect(read('SUM(boats) / (COUNT(*) - 5)').Quel).toBeNaN();
    expect(read('COALESCE(SUM(boats), 0)', 10, ['2024-01-01'])).toMatchObject({ Harl: 0 });
  });
  it('asks for each partial aggregate once', () => {
    expect(formulaPartials('SUM(boats) + AVG(boats) * COUNT(*) / SUM(boats)', fullEngine)).toEqual([
      { aggregate: 'sum', field: 'boats' },
      { aggregate: 'count', field: 'boats' },
      { aggregate: 'count', field: undefined },
    ]);
  });
  it('takes expressions and filters from the rows as they are written', () => {
    expect(formulaPartials("AVG(boats - 1) FILTER (WHERE quay <> 'Quel') + SUM(boats)", fullEngine)).toEqual([
      { aggregate: 'sum', of: 'boats - 1', where: "quay <> 'Quel'" },
      { aggregate: 'count', of: 'boats - 1', where: "quay <> 'Quel'" },
      { aggregate: 'sum', field: 'boats' },
    ]);
    const [sum, count] = [Float64Array.of(12, Number.NaN), Float64Array.of(4, 0)];
    const figures = formulaFigures('AVG(boats - 1) * 2', [sum, count], 2, formulasAt(0));
    expect([...figures]).toEqual([6, Number.NaN]);
  });
  it('asks for what cannot be added up as a whole', () => {
    const text = 'COUNT(DISTINCT quay) FILTER (WHERE (boats + 1) * 2 > 3) / STDDEV_SAMP(boats) + COUNT(*)';
    expect(measureProblem(text, withLever, dataset, fullEngine)).toBeNull();
    expect(formulaPartials(text, fullEngine)).toEqual([
      { aggregate: 'nonAdditive', of: 'COUNT(DISTINCT quay) FILTER (WHERE (boats + 1) * 2 > 3)' },
      { aggregate: 'nonAdditive', of: 'STDDEV_SAMP(boats)' },
      { aggregate: 'count', field: undefined },
    ]);
  });
  it('takes what stands in brackets with its brackets', () => {
    expect(formulaPartials('SUM((boats + 1) * 2)', fullEngine)).toEqual([
      { aggregate: 'sum', of: '(boats + 1) * 2' },
    ]);
  });
  it('has a total of its own, not the sum of its readings', () => {
    expect(totalOf(cube, formula('SUM(boats) / COUNT(boats)'), [], formulasAt(0))).toBe(92 / 13);
  });
  it('means what plain arithmetic on the roll-up means', () => {
    const figures = fc.constantFrom(
      'SUM(boats)',
      'COUNT(*)',
      'COUNT(boats)',
      'MIN(boats)',
      'MAX(boats)',
      '3',
    );
    const sums = fc.letrec<{ term: string }>((tie) => ({
      term: fc.oneof(
        { maxDepth: 4 },
        figures,
        fc
          .tuple(tie('term'), fc.constantFrom('+', '-', '*', '/'), tie('term'))
          .map(([a, op, b]) => `(${a} ${op} ${b})`),
      ),
    }));
    const quel = { 'SUM(boats)': 40, 'COUNT(*)': 5, 'COUNT(boats)': 5, 'MIN(boats)': 4, 'MAX(boats)': 15 };
    fc.assert(
      fc.property(sums.term, (text) => {
        fc.pre(/[A-Z]/.test(text));
        const plain = text.replace(/[A-Z]+\([a-z*]+\)/g, (name) => String(quel[name as keyof typeof quel]));
        const oracle = Function(`return ${plain}`)() as number;
        const found = read(text).Quel!;
        // Where a part divides by zero JavaScript goes on with what is no number, SQL with null.
        if (Number.isFinite(oracle) && !Number.isNaN(found)) expect(found).toBeCloseTo(oracle, 8);
        else expect(plain).toContain('/');
      }),
      { numRuns: 300 },
    );
  });
});

describe('what is wrong with one is said where it stands', () => {
  it.each([
    ['boats / 2', 'boats', 'must be aggregated in a measure: SUM(boats)'],
    ['SUM(boat) / 2', 'boat', 'Is boats meant?'],
    ['SUM(quay)', 'quay', 'Quay is none'],
    ['PERCENTILE_CONT(boats)', 'PERCENTILE_CONT(boats)', 'PERCENTILE_CONT(0.5) WITHIN GROUP'],
    ['PERCENTILE_CONT(50) WITHIN GROUP (ORDER BY boats)', '50', 'a share from 0 to 1'],
    ['PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY quay)', 'quay', 'Quay is none'],
    ['SUM(boats) WITHIN GROUP (ORDER BY boats)', 'boats', 'a field or an expression'],
    ['COUNT(DISTINCT qay)', 'qay', 'Is quay meant?'],
    ['SUM(boats * :fare_change)', ':fare_change', 'Move the lever outside'],
    ['SUM(boats) FILTER (WHERE quay)', 'quay', 'true or false of a row'],
    ["SUM(boats) FILTER (WHERE qay = 'Quel')", 'qay', 'Is quay meant?'],
    ['SUM(quay || quay)', 'quay || quay', 'takes a number'],
    ['SUM(COUNT(*))', 'COUNT(*)', 'combines several rows'],
    ['SUM()', 'SUM()', 'a field or an expression'],
    ['RANK(boats)', 'RANK(boats)', 'looks at other rows'],
    ['SUM(boats) > 3', 'SUM(boats) > 3', 'A measure is a number'],
    ['RANK() OVER (ORDER BY SUM(boats))', 'RANK() OVER (ORDER BY SUM(boats))', 'one row at a time'],
    ['1 + 1', '1 + 1', 'must use the data'],
    ['SUM(boats) * :fare', ':fare', 'no lever'],
    ['SUM(boats', '', ''],
  ])('%s', (text, at, says) => {
    const problem = measureProblem(text, withLever, dataset, fullEngine)!;
    expect(problem.message).toContain(says);
    if (at) expect(text.slice(problem.from, problem.to)).toBe(at);
  });
  it('and nothing where nothing is', () => {
    expect(
      measureProblem('SUM(boats) * (1 + :fare_change / 100)', withLever, dataset, fullEngine),
    ).toBeNull();
  });
});
