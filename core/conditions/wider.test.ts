import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import type { Cube } from '../data/cube';
import { memberCue } from '../edit/defaults';
import type { PickLever } from '../levers/pick';
import { cubeQuery, cubeRequest } from '../pipeline/cube-request';
import { board, chart, years } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';

const coasts: PickLever = { ...years, id: 'coasts', name: 'Coasts', field: 'coast', grain: undefined };
const levers = [years, coasts];
const on: typeof board = { ...board, levers };
const months: Chart = {
  ...chart,
  by: { field: 'day', grain: 'month' },
  order: { by: 'key', direction: 'ascending' },
  cues: [memberCue('years', [])],
  touches: [],
};
const monthCube: Cube = {
  cells: 4,
  dimensions: [
    {
      field: 'day',
      grain: 'month',
      values: ['2022-12-01', '2023-01-01', '2023-12-01'],
      codes: Int32Array.of(0, 1, 2, -1),
    },
  ],
  partials: [{ aggregate: 'sum', field: 'boats', values: Float64Array.of(1, 2, 3, 4) }],
};

describe('a pick of wider periods', () => {
  const run = (picked: string[]) => runChart(months, { years: picked }, { board: on, cube: monthCube });
  it('lights the periods that begin in them', () => {
    const { readings, emphasis, why, caption } = run(['2023-01-01']);
    expect(readings.category.filter((_, i) => emphasis.look[i]! >= 0)).toEqual(['2023-01-01', '2023-12-01']);
    expect(why(0)).toBe('Muted: Dec 2022 is of 2022, which is not in Years.');
    expect(why(1)).toBe('Lit: Jan 2023 is of 2023, which is in Years.');
    expect(caption()).toContain('2 of 4 months lit');
  });
  it('asks for nothing more, and is at rest while nothing is picked', () => {
    expect(cubeQuery(cubeRequest(months, on, null), 1)).toBe('version=1&key=day.month&aggregate=sum.boats');
    expect(run([]).emphasis.active).toBe(false);
  });
});

describe('a pick of another field', () => {
  // Quel and Harl lie on the north coast, Ostrin on both, Tarsk nowhere that is known.
  const cube: Cube = {
    cells: 5,
    dimensions: [
      { field: 'quay', values: ['Quel', 'Harl', 'Ostrin', 'Tarsk'], codes: Int32Array.of(0, 1, 2, 2, 3) },
      { field: 'coast', values: ['north', 'south'], codes: Int32Array.of(0, 0, 0, 1, -1) },
    ],
    partials: [{ aggregate: 'sum', field: 'boats', values: Float64Array.of(9, 8, 4, 3, 2) }],
  };
  const quays: Chart = { ...chart, cues: [memberCue('coasts', [])], touches: [] };
  const run = (picked: string[], changes: object = {}) =>
    runChart({ ...quays, ...changes }, { coasts: picked }, { board: on, cube });
  const litBy = (picked: string[], changes: object = {}) => {
    const { readings, emphasis } = run(picked, changes);
    return readings.category.filter((_, i) => emphasis.look[i]! >= 0);
  };
  it('lights the categories all of whose rows are picked', () => {
    expect(litBy(['north'])).toEqual(['Quel', 'Harl']);
    expect(litBy(['south'])).toEqual([]);
    expect(litBy(['north', 'south'])).toEqual(['Quel', 'Harl', 'Ostrin']);
  });
  it('says what was looked for', () => {
    const { why } = run(['north']);
    expect(why(0)).toBe('Lit: Quel is of north, which is in Coasts.');
    expect(why(2)).toBe('Muted: Ostrin is of north and south, not all in Coasts.');
    expect(why(3)).toBe('Muted: it has no value to look for.');
  });
  it('has its field in the cube, and can be turned round', () => {
    expect(cubeQuery(cubeRequest(quays, on, null), 1)).toContain('key=quay&key=coast');
    const not = {
      cues: [{ ...quays.cues[0]!, condition: { kind: 'not', of: { kind: 'member', lever: 'coasts' } } }],
    };
    expect(litBy(['north'], not)).toEqual(['Ostrin']);
  });
  it('says where it cannot be known', () => {
    const { cells, dimensions, partials } = cube;
    const alone = { cells, dimensions: dimensions.slice(0, 1), partials };
    const { why, emphasis } = runChart(quays, { coasts: ['north'] }, { board: on, cube: alone });
    expect(emphasis.litCount).toBe(0);
    expect(why(0)).toBe('Muted: what it belongs to is not known while its values load.');
  });
  it('does not look into rows of another dataset', () => {
    const { emphasis } = runChart(
      quays,
      { coasts: ['north'] },
      { board: { ...on, levers: [years, { ...coasts, dataset: 'other' }] }, cube },
    );
    expect(emphasis.active).toBe(false);
  });
});
