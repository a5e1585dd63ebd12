import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cube } from '../data/cube';
import type { DatasetInfo } from '../data/dataset';
import type { KeyValue } from '../data/values';
import { cubeOfRows, randomFrom, type TestRow } from '../testing/cube-of-rows';
import { cubeRequest, requestLevels } from './cube-request';
import { readingsOf } from './readings-of';
import { asksForItsWindow, windowKept } from './window-asked';

const profile = { count: 1, missing: 0, min: null, max: null };
const dataset: DatasetInfo = {
  id: 'd',
  name: 'D',
  version: 1,
  rows: 10_000_000,
  fields: [
    {
      key: 'day',
      name: 'Day',
      type: 'date',
      profile: { ...profile, distinct: 3000, min: '2015-01-01', max: '2023-03-19' },
    },
    { key: 'buoy', name: 'Buoy', type: 'text', profile: { ...profile, distinct: 200 } },
    { key: 'height', name: 'Height', type: 'decimal', profile: { ...profile, distinct: 900 } },
  ],
};
const chart = {
  id: 'c',
  dataset: 'd',
  form: 'line',
  by: { field: 'day', grain: 'day' },
  split: { field: 'buoy' },
  measure: { aggregate: 'max', field: 'height' },
  order: { by: 'key', direction: 'ascending' },
  window: { lever: 'w', axis: 'following' },
  cues: [],
  guides: [],
  touches: [],
} as unknown as Chart;
const board = {
  version: 1,
  title: 'B',
  charts: [chart],
  levers: [
    {
      kind: 'window',
      id: 'w',
      name: 'W',
      dataset: 'd',
      field: 'day',
      grain: 'day',
      length: 30,
      counts: 'calendar',
      start: 'first',
      clearing: 'start',
    },
  ],
} as unknown as Board;
const asks = (more: object = {}, known = dataset) =>
  asksForItsWindow({ ...chart, ...more } as Chart, board, known, fullEngine);

describe('a chart with a window', () => {
  it('asks for what is in view where all of its axis would be too much', () => {
    expect(asks()).toBe(true);
    expect(asks({}, { ...dataset, rows: 200_000 })).toBe(false);
    expect(asks({ split: undefined })).toBe(false);
  });

  it.each([
    ['an axis that stays', { window: { lever: 'w', axis: 'fixed' } }],
    ['an order by figures', { order: { by: 'value', direction: 'descending' } }],
    ['series in the order of their figures', { split: { field: 'buoy', order: { by: 'value' } } }],
    [
      'a light on the latest of the data',
      {
        cues: [
          {
            id: 'l',
            effect: 'light',
            look: {},
            condition: { kind: 'not', of: { kind: 'any', of: [{ kind: 'latest', of: 'data' }] } },
          },
        ],
      },
    ],
    [
      'figures that cannot be added up',
      { measure: { aggregate: 'formula', text: 'COUNT(DISTINCT height)' } },
    ],
    ['a comparison with the year before', { compare: { with: 'year', as: 'difference' } }],
    ['a comparison with the average', { compare: { with: 'average', as: 'difference' } }],
    ['no window', { window: undefined }],
    ['a window of no lever', { window: { lever: 'gone', axis: 'following' } }],
  ])('needs all of it for %s', (_why, more) => {
    expect(asks(more)).toBe(false);
  });

  it.each([
    ['shares', { measure: { aggregate: 'sum', field: 'height', share: 'everything' } }],
    ['a comparison with the whole', { compare: { with: 'whole', as: 'ratio' } }],
    [
      'a light on the latest in view',
      { cues: [{ id: 'l', effect: 'light', condition: { kind: 'latest', of: 'view' }, look: {} }] },
    ],
  ])('needs only what is in view, and the wholes, for %s', (_why, more) => {
    expect(asks(more)).toBe(true);
  });

  it('has the same shares of the same wholes as from all of its axis', () => {
    const row = fc.record({
      day: fc.constantFrom<KeyValue>('2021-03-01', '2021-03-02', '2021-03-03', '2021-03-04', '2021-03-05'),
      buoy: fc.constantFrom<KeyValue>('Ness', 'Quel', 'Harl', null),
      height: fc.option(fc.integer({ min: 1, max: 20 }), { freq: 6 }),
    });
    const inView = (each: TestRow) => each.day! >= '2021-03-02' && each.day! <= '2021-03-04';
    fc.assert(
      fc.property(
        fc.array(row, { minLength: 1, maxLength: 60 }),
        fc.constantFrom('everything', 'kept', 'series', 'category'),
        fc.boolean(),
        fc.nat(),
        (rows, share, split, seed) => {
          const shared = {
            ...chart,
            split: split ? chart.split : undefined,
            measure: { aggregate: 'sum', field: 'height', share },
          } as Chart;
          const asking = cubeRequest(shared, board, fullEngine, { perMove: true });
          const random = randomFrom(seed);
          const [own, ...rest] = requestLevels(asking, shared).map(({ keys, partials, overall }) =>
            cubeOfRows(overall ? rows : rows.filter(inView), keys, partials, random),
          );
          const windowed: Cube = {
            ...own!,
            asked: true,
            ...(rest.length ? { levels: [own!, ...rest] } : {}),
          };
          const figures = (cube: Cube) => {
            const { category, series, seriesOf, value } = readingsOf(cube, shared, []);
            return category.flatMap((day, i) =>
              day! >= '2021-03-02' && day! <= '2021-03-04' && !Number.isNaN(value[i]!)
                ? [[day, series[seriesOf[i]!] ?? null, value[i]!.toFixed(12)]]
                : [],
            );
          };
          const all = cubeOfRows(rows, asking.keys, asking.partials, random);
          expect(figures(windowed)).toEqual(figures(all));
        },
      ),
      { numRuns: 300 },
    );
  });

  it('is compared with, and filled up to, what is asked of all of its axis', () => {
    const overall = (more: object) =>
      requestLevels({ keys: [{ field: 'day' }], partials: [] }, { ...chart, ...more } as Chart).slice(1);
    const everything = [{ keys: [], partials: [], overall: true }];
    expect(overall({})).toEqual([]);
    expect(overall({ compare: { with: 'whole', as: 'ratio' } })).toEqual(everything);
    expect(overall({ whole: { of: 'everything' } })).toEqual(everything);
    expect(overall({ whole: { of: 'filters' } })).toEqual(everything);
    expect(overall({ whole: { of: 'largest' } })).toEqual([]);
  });

  it('keeps of its axis what is around where the window stands', () => {
    const facts = { w: { dataset } };
    const kept = (from: string | null) => windowKept(chart, board, () => ({ from, length: 30 }), facts);
    expect(kept(null)).toEqual({ field: 'day', grain: 'day', ranges: [['2015-01-01', '2015-03-31']] });
    expect(kept('2016-01-10')).toEqual({
      field: 'day',
      grain: 'day',
      ranges: [['2015-11-27', '2016-03-25']],
    });
    expect(
      windowKept({ ...chart, window: undefined } as unknown as Chart, board, () => null, facts),
    ).toBeNull();
    expect(windowKept(chart, board, () => ({ from: null, length: 30 }), {})).toBeNull();
  });
});
