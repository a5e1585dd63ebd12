import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import type { Cube } from '../data/cube';
import { restCategory } from '../data/kept-categories';
import { readBoard } from '../edit/read-board';
import { board, chart, dataset } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';

const keep = (count: number, more: object = {}): Cue =>
  ({
    id: 'keep',
    effect: 'keep',
    remainder: 'together',
    condition: { kind: 'rank', count, side: 'highest', ties: 'first' },
    look: {},
    resting: 'plain',
    ...more,
  }) as Cue;
const kept = (count: number, changes: Partial<Chart> = {}, more: object = {}): Chart => ({
  ...chart,
  cues: [keep(count, more), ...(changes.cues ?? [])],
  touches: [],
  ...Object.fromEntries(Object.entries(changes).filter(([key]) => key !== 'cues')),
});
const shown = (on: Chart) => {
  const { readings, labels } = runChart(on, {}, { board: { ...board, charts: [on] } });
  return labels.map((label, i) => [label, readings.value[readings.place.indexOf(i)]]);
};
const light = (count: number): Cue => ({ ...keep(count), id: 'light', effect: 'light' });

describe('a chart that keeps only some of its categories', () => {
  it('has the others as one reading after them, put together from their rows', () => {
    // Quel 40, Ostrin 25, Harl 20, one unnamed 7.
    expect(shown(kept(2))).toEqual([
      ['Quel', 40],
      ['Ostrin', 25],
      ['others (2)', 27],
    ]);
    // By average: Harl 10, Quel 8, the unnamed one 7, Ostrin 5. An average of the others is that of their rows, not of their averages.
    const average = { aggregate: 'average', field: 'boats' } as const;
    const [, , others] = shown(kept(2, { measure: average }));
    expect(others![1]).toBeCloseTo((25 + 7) / 6, 12);
  });
  it('or they are gone, while totals and shares stay what they are', () => {
    const gone = { remainder: 'gone' };
    expect(shown(kept(1, {}, gone))).toEqual([['Quel', 40]]);
    const share = { aggregate: 'sum', field: 'boats', share: 'kept' } as const;
    const [first] = shown(kept(1, { measure: share }, gone));
    expect(first).toEqual(['Quel', 40 / 92]);
  });
  it('keeps all while the count is at least as many, and none of 0', () => {
    expect(shown(kept(9)).map(([label]) => label)).toEqual(['Quel', 'Ostrin', 'Harl', '(missing)']);
    expect(shown(kept(0))).toEqual([['others (4)', 92]]);
  });
  it('judges whole categories where it is parted into series', () => {
    const parted = kept(1, { split: { field: 'day', grain: 'year', colours: 'one' } });
    const { readings } = runChart(parted, {}, { board: { ...board, charts: [parted] } });
    const figures = [...readings.value.keys()].map((i) => [readings.category[i], readings.value[i]]);
    expect(figures).toEqual([
      ['Quel', 30],
      [restCategory, 47],
      ['Quel', 10],
      [restCategory, 5],
    ]);
  });
  it('never ranks, lights or counts the others together', () => {
    const on = kept(2, { cues: [light(1)] });
    const { emphasis, readings, caption, why } = runChart(on, {}, { board: { ...board, charts: [on] } });
    expect(readings.category.filter((_, i) => emphasis.look[i]! >= 0)).toEqual(['Quel']);
    expect(caption()).toBe('2 of 4 quays kept, the others together. 1 of 2 quays lit: Quel (40).');
    expect(why(2)).toBe('Muted: these are 2 others together, and none of those that are compared.');
  });
  it('keeps no dates together', () => {
    const months = kept(1, {
      by: { field: 'day', grain: 'year' },
      order: { by: 'value', direction: 'descending' },
    });
    expect(shown(months)).toEqual([['2023', 77]]);
  });
  it('compares with periods that are not kept', () => {
    const last = kept(1, {
      by: { field: 'day', grain: 'year' },
      order: { by: 'key', direction: 'ascending' },
      compare: { with: 'previous', as: 'difference' },
    });
    last.cues[0] = keep(1, { condition: { kind: 'rank', count: 1, side: 'lowest', ties: 'first' } });
    // 2024 alone is kept, with 15; the year before it had 77.
    expect(shown(last)).toEqual([['2024', 15 - 77]]);
  });
  it('says so, and is a sound board', () => {
    const document = JSON.parse(JSON.stringify({ ...board, charts: [kept(2)] }));
    const reading = readBoard(document);
    expect(reading.ok ? [] : reading.problems).toEqual([]);
    document.charts[0].cues[0].remainder = 'hidden';
    expect(readBoard(document).ok).toBe(false);
  });
  it('adds up to what it was, whatever is kept of whatever there is', () => {
    const rows = fc.array(
      fc.record({ key: fc.integer({ min: 0, max: 9 }), n: fc.integer({ min: -50, max: 50 }) }),
      {
        minLength: 1,
        maxLength: 40,
      },
    );
    fc.assert(
      fc.property(rows, fc.integer({ min: 0, max: 11 }), (list, count) => {
        const values = [...new Set(list.map(({ key }) => `q${key}`))];
        const made: Cube = {
          cells: list.length,
          dimensions: [
            { field: 'quay', values, codes: Int32Array.from(list, ({ key }) => values.indexOf(`q${key}`)) },
          ],
          partials: [{ aggregate: 'sum', field: 'boats', values: Float64Array.from(list, ({ n }) => n) }],
        };
        const on = { ...kept(count), order: { by: 'value', direction: 'descending' } } as Chart;
        const { readings } = runChart(on, {}, { board: { ...board, charts: [on] }, cube: made, dataset });
        const figures = [...readings.value];
        const total = list.reduce((sum, { n }) => sum + n, 0);
        expect(figures.reduce((sum, value) => sum + value, 0)).toBe(total);
        const together = readings.category.at(-1) === restCategory;
        expect(figures.length - Number(together)).toBe(Math.min(count, values.length));
        // None that is kept is below one that is not.
        const own = (name: string) =>
          list.filter(({ key }) => `q${key}` === name).reduce((sum, { n }) => sum + n, 0);
        const left = values.filter((value) => !readings.category.includes(value)).map(own);
        if (left.length && figures.length > 1)
          expect(Math.min(...figures.slice(0, -1))).toBeGreaterThanOrEqual(Math.max(...left));
      }),
    );
  });
});
