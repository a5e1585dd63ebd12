import { describe, expect, it } from 'vitest';
import type { DatasetInfo } from '../data/dataset';
import { mostCells } from './cube-size';

const profile = (distinct: number, missing = 0, min: string | number = 0, max: string | number = 1) => ({
  profile: { count: 900, distinct, missing, min, max },
});
const dataset: DatasetInfo = {
  id: 'd',
  name: 'D',
  version: 1,
  rows: 1000,
  fields: [
    { key: 'quay', name: 'Quay', type: 'text', ...profile(7) },
    { key: 'fare', name: 'Fare', type: 'text', ...profile(3, 100) },
    { key: 'day', name: 'Day', type: 'date', ...profile(400, 0, '2021-01-15', '2022-03-01') },
    { key: 'note', name: 'Note', type: 'text', profile: null },
  ],
};
const cells = (...keys: { field: string; grain?: 'month' | 'year' | 'day' }[]) =>
  mostCells({ keys, partials: [{ aggregate: 'count' }] }, dataset);

describe('the most cells that a cube can have', () => {
  it('is how many combinations there could be', () => {
    expect(cells()).toBe(1);
    expect(cells({ field: 'quay' })).toBe(7);
    // Rows without a fare are a group of their own.
    expect(cells({ field: 'quay' }, { field: 'fare' })).toBe(28);
  });
  it('counts periods from the first to the last, and no more than there are dates', () => {
    expect(cells({ field: 'day', grain: 'year' })).toBe(2);
    expect(cells({ field: 'day', grain: 'month' })).toBe(15);
    expect(cells({ field: 'day', grain: 'day' })).toBe(400);
  });
  it('is never more than there are rows, and all of them where nothing is known', () => {
    expect(cells({ field: 'quay' }, { field: 'day', grain: 'day' })).toBe(1000);
    expect(cells({ field: 'note' })).toBe(1000);
  });
});
