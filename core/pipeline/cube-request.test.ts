import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import { aggregateValue } from '../data/aggregate-partials';
import { board, chart } from '../testing/fixtures';
import { cubeQuery, cubeRequest } from './cube-request';
import { measurePartials } from './measure-partials';

describe('the cube a chart asks for', () => {
  it('holds its categories and what its levers may filter on, whether they do or not', () => {
    expect(cubeQuery(cubeRequest(chart, board, fullEngine), 3)).toBe(
      'version=3&key=quay&key=day.year&aggregate=sum.boats',
    );
  });
  it('is the same for a chart that lights another way', () => {
    const other = {
      ...chart,
      form: 'columns',
      title: 'Other',
      cues: [{ ...chart.cues[0]!, resting: 'muted' as const }, chart.cues[1]!],
    };
    expect(cubeQuery(cubeRequest(other, board, fullEngine), 3)).toBe(
      cubeQuery(cubeRequest(chart, board, fullEngine), 3),
    );
  });
  it('leaves out filters that are switched off, and names nothing twice', () => {
    const off = { ...chart, cues: chart.cues.map((cue) => ({ ...cue, off: true })) };
    expect(cubeRequest(off, board, fullEngine).keys).toEqual([{ field: 'quay', grain: undefined }]);
    const twice = { ...chart, cues: chart.cues.map((cue) => ({ ...cue, effect: 'filter' as const })) };
    expect(cubeRequest(twice, board, fullEngine).keys).toHaveLength(2);
  });
  it('brings the place of the first row when the order is that of the data', () => {
    const ordered = { ...chart, order: { by: 'data', direction: 'ascending' } as const };
    expect(cubeQuery(cubeRequest(ordered, board, fullEngine), 1)).toContain('aggregate=first');
  });
});

describe('a measure and its atoms', () => {
  it.each([
    [{ aggregate: 'sum', field: 'n' }, ['sum'], [7], 7],
    [{ aggregate: 'average', field: 'n' }, ['sum', 'count'], [7, 2], 3.5],
    [{ aggregate: 'average', field: 'n' }, ['sum', 'count'], [Number.NaN, 0], Number.NaN],
    [{ aggregate: 'count' }, ['count'], [0], 0],
    [{ aggregate: 'min', field: 'n' }, ['min'], [-3], -3],
  ] as const)('%o', (measure, partials, values, expected) => {
    expect(measurePartials(measure, fullEngine).map((partial) => partial.aggregate)).toEqual(partials);
    expect(aggregateValue(measure, values)).toBe(expected);
  });
});
