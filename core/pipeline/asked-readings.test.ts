import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Measure } from '../board/measure';
import type { Order } from '../board/order';
import { keepValues } from '../conditions/keep-values';
import type { Cube } from '../data/cube';
import { floats } from '../data/typed-lists';
import type { KeyValue } from '../data/values';
import { askedCube, cubeOfRows, type PartialOfRows, randomFrom, type TestRow } from '../testing/cube-of-rows';
import { requestLevels } from './cube-request';
import type { MeasureFormulas } from './measure-formula';
import { measurePartials } from './measure-partials';
import { readingsOf } from './readings-of';

const numbers = (rows: readonly TestRow[]) =>
  rows.flatMap(({ n }) => (typeof n === 'number' ? [n] : [])).sort((a, b) => a - b);
const spread = (list: number[]): number => {
  if (list.length < 2) return Number.NaN;
  const mean = list.reduce((a, b) => a + b, 0) / list.length;
  return Math.sqrt(list.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (list.length - 1));
};
/** Every aggregate that cannot be put together from parts, computed from the rows themselves. */
const whole: Record<string, (rows: readonly TestRow[]) => number> = {
  'STDDEV_SAMP(n)': (rows) => spread(numbers(rows)),
  'VAR_SAMP(n)': (rows) => spread(numbers(rows)) ** 2,
  'COUNT(DISTINCT n)': (rows) => new Set(numbers(rows)).size,
  'PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY n)': (rows) => {
    const list = numbers(rows);
    const at = (list.length - 1) / 2;
    return list.length ? (list[Math.floor(at)]! + list[Math.ceil(at)]!) / 2 : Number.NaN;
  },
};
const formulas: MeasureFormulas = {
  engine: fullEngine,
  lever: () => undefined,
  levers: [],
  typeOf: () => 'text',
  read: () => null,
  today: '2024-11-30',
};
const partialOf: PartialOfRows = ({ of }, rows) => whole[of!]!(rows);

const rows = fc.array(
  fc.record({
    quay: fc.constantFrom<KeyValue>('Quel', 'Harl', 'Ostrin', 'Tarsk', null),
    fare: fc.constantFrom<KeyValue>('adult', 'child', 'commuter', null),
    day: fc.constantFrom<KeyValue>('2021-03-01', '2022-03-01', '2023-03-01', '2024-03-01'),
    n: fc.option(fc.integer({ min: -20, max: 20 }), { freq: 6 }),
  }),
  { minLength: 1, maxLength: 60 },
);
const orders = fc.record({
  by: fc.constantFrom<Order['by']>('value', 'key'),
  direction: fc.constantFrom<Order['direction']>('ascending', 'descending'),
});

describe('figures that are asked for as a whole', () => {
  it('stand at the category and the series that they are of, whatever order the database sends them in', () => {
    fc.assert(
      fc.property(
        rows,
        orders,
        fc.constantFrom(...Object.keys(whole)),
        fc.boolean(),
        fc.boolean(),
        fc.constantFrom('quay', 'day'),
        fc.nat(),
        (list, order, text, parted, filtered, field, seed) => {
          const by = field === 'day' ? ({ field, grain: 'year' } as const) : { field };
          const split = parted ? { field: 'fare', colours: 'own' as const } : undefined;
          const measure: Measure = { aggregate: 'formula', text };
          const keys = [by, ...(split ? [{ field: 'fare' }] : [])];
          const kept = (row: TestRow) => row.fare === 'adult' || row.fare === 'child';
          const levels = requestLevels({ keys, partials: measurePartials(measure, fullEngine) });
          const cube = askedCube(list, levels, randomFrom(seed), partialOf, filtered ? kept : undefined);
          const filters = filtered ? [keepValues({ field: 'fare' }, ['adult', 'child'])] : [];
          const found = readingsOf(cube, { by, split, measure, order, formulas }, filters);

          const own = filtered ? list.filter(kept) : list;
          const placeKey = (row: TestRow): KeyValue =>
            field === 'day' ? `${String(row.day).slice(0, 4)}-01-01` : row.quay!;
          const figureAt = (place: KeyValue, series?: KeyValue) =>
            whole[text]!(
              own.filter((row) => placeKey(row) === place && (series === undefined || row.fare === series)),
            );
          for (let i = 0; i < found.length; i++) {
            const series = parted ? found.series[found.seriesOf[i]!]! : undefined;
            const wanted = figureAt(found.category[i]!, series);
            if (Number.isNaN(wanted)) expect(found.value[i]).toBeNaN();
            else expect(found.value[i]).toBeCloseTo(wanted, 9);
          }
          expect(new Set(found.places)).toEqual(new Set(own.map(placeKey)));
          if (order.by === 'value') {
            const sign = order.direction === 'ascending' ? 1 : -1;
            const figures = found.places
              .map((place) => figureAt(place))
              .filter((figure) => !Number.isNaN(figure));
            figures.forEach((figure, i) => {
              if (i) expect(sign * (figure - figures[i - 1]!)).toBeGreaterThanOrEqual(-1e-9);
            });
          }
        },
      ),
      { numRuns: 600 },
    );
  });

  it('and so do sums from a cube whose cells come in any order, beside measures of another roll-up', () => {
    fc.assert(
      fc.property(rows, orders, fc.boolean(), fc.nat(), (list, order, data, seed) => {
        const by = { field: 'quay' };
        const measure: Measure = { aggregate: 'sum', field: 'n' };
        const partials = [
          ...measurePartials(measure, fullEngine),
          { aggregate: 'count' as const },
          { aggregate: 'first' as const },
        ];
        const made: Cube = cubeOfRows(list, [by, { field: 'fare' }], partials, randomFrom(seed));
        const found = readingsOf(
          made,
          { by, measure, order: data ? { ...order, by: 'data' } : order, others: [{ aggregate: 'count' }] },
          [],
        );
        const sums = floats(found.length, (i) => {
          const own = numbers(list.filter(({ quay }) => quay === found.category[i]));
          return own.length ? own.reduce((a, b) => a + b, 0) : Number.NaN;
        });
        expect([...found.value]).toEqual([...sums]);
        expect([...found.others.get('count')!]).toEqual(
          found.category.map((quay) => list.filter((row) => row.quay === quay).length),
        );
      }),
      { numRuns: 300 },
    );
  });
});
