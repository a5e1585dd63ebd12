import { describe, expect, it } from 'vitest';
import { placesOf } from '../board/layout';
import type { DatasetInfo } from '../data/dataset';
import { dataset } from '../testing/fixtures';
import { chartFromField, isMeasured, withField } from './chart-from-field';
import { readBoard } from './read-board';

const profile = (distinct: number, min: string | number | null = null, max = min) => ({
  count: 100,
  distinct,
  missing: 0,
  min,
  max,
});
const known: DatasetInfo = {
  ...dataset,
  fields: [
    { key: 'quay', name: 'Quay', type: 'text', profile: profile(9) },
    { key: 'boats', name: 'Boats', type: 'integer', profile: profile(80, 0, 90) },
    { key: 'hour', name: 'Hour', type: 'integer', profile: profile(12, 6, 20) },
    { key: 'day', name: 'Day', type: 'date', profile: profile(900, '2019-01-01', '2022-01-01') },
    { key: 'old', name: 'Old', type: 'date', profile: profile(900, '1900-01-01', '2022-01-01') },
  ],
};

describe('a chart from one field', () => {
  it.each([
    ['boats', { measure: { aggregate: 'sum', field: 'boats' } }],
    ['hour', { by: { field: 'hour' } }],
    ['quay', { by: { field: 'quay' } }],
    ['day', { by: { field: 'day', grain: 'month' }, form: 'columns', order: { by: 'key' } }],
    ['old', { by: { field: 'old', grain: 'year' } }],
  ])('%s', (key, wanted) => {
    const chart = chartFromField(known, key, ['chart-1']);
    expect(chart).toMatchObject({ id: 'chart-1-2', ...wanted });
    expect(readBoard({ version: 1, title: 'x', levers: [], charts: [chart] })).toMatchObject({ ok: true });
  });
  it('keeps a line a line, and what else the chart says', () => {
    const line = { ...chartFromField(known, 'day', []), form: 'line', labels: 'lit' as const };
    expect(withField(line, known, 'old')).toMatchObject({ form: 'line', labels: 'lit' });
    expect(isMeasured(known, 'nothing')).toBe(false);
  });
});

it('notes may be lower than charts', () => {
  const place = { column: 0, row: 0, width: 2, height: 1 };
  expect(placesOf([{ place, least: { width: 2, height: 1 } }, {}])[0]).toEqual(place);
  expect(placesOf([{ place }, {}])[0]).toMatchObject({ width: 3, height: 3 });
});
