import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { DatasetInfo } from '../data/dataset';
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
    ['shares', { measure: { aggregate: 'sum', field: 'height', share: 'everything' } }],
    [
      'figures that cannot be added up',
      { measure: { aggregate: 'formula', text: 'COUNT(DISTINCT height)' } },
    ],
    ['a comparison', { compare: { with: 'previous', as: 'difference' } }],
    ['no window', { window: undefined }],
    ['a window of no lever', { window: { lever: 'gone', axis: 'following' } }],
  ])('needs all of it for %s', (_why, more) => {
    expect(asks(more)).toBe(false);
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
