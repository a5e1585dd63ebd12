import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import { newCue } from '../edit/defaults';
import { rects } from '../pipeline/shapes/rects';
import { chart } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import type { RectMarks, Scene } from './scene';

const top = newCue('top', { kind: 'rank', count: 1, side: 'highest', ties: 'share' }, []);
const table: Chart = {
  ...chart,
  form: 'table',
  cues: [top],
  also: [{ measure: { aggregate: 'count' } }, { measure: { aggregate: 'average', field: 'boats' } }],
  touches: [],
};
const run = (width: number) => runChart(table, {}, { width, height: 200 });
type Table = Scene & { marks: RectMarks };

describe('a table of several measures', () => {
  const { scene, readings, legend, emphasis } = run(700);
  const { marks, texts, band } = scene as Table;
  const n = readings.judged!.length;

  it('has a row for each place and a column for each measure, with their names above', () => {
    expect(band).toMatchObject({ direction: 'y', count: 4, start: 22, step: 24 });
    expect(texts.filter(({ role }) => role === 'axis').map(({ text }) => text)).toEqual([
      'Total boats',
      'Number of rows',
      'Average boats',
    ]);
    expect(texts.filter(({ role }) => role === 'category')).toHaveLength(4);
    const figures = texts.filter(({ role }) => role === 'value');
    expect(figures.slice(0, 3).map(({ text }) => text)).toEqual(['40', '5', '8']);
    expect(new Set(figures.slice(0, 3).map(({ y }) => y))).toEqual(new Set([34]));
  });
  it('has bars in proportion to their own measure', () => {
    // 40, 25, 20 and 7 boats; 5, 5, 4 and 1 rows.
    for (const [measure, values] of [
      [0, [40, 25, 20, 7]],
      [1, [5, 5, 4, 1]],
    ] as const)
      values.forEach((value, i) => {
        const widest = Math.max(...values);
        expect(marks.width[measure * n + i]! / marks.width[measure * n]!).toBeCloseTo(value / widest, 6);
      });
  });
  it('is pointed at cell by cell, and lit row by row', () => {
    const at = (x: number, y: number) => rects.markAt(scene, readings, x, y);
    expect(at(5, 34)).toBe(0);
    expect(at(695, 34)).toBe(2 * n);
    expect(at(695, 34 + 24)).toBe(2 * n + 1);
    expect(at(695, 10)).toBe(-1);
    expect([0, n, 2 * n].map((i) => emphasis.state[i])).toEqual([2, 2, 2]);
    expect(legend().map(({ text }) => text)).toEqual(['the highest by total boats', 'the rest']);
  });
  it('keeps its figures where there is no room for bars', () => {
    const narrow = run(210).scene as Table;
    expect([...narrow.marks.width].every((width) => width === 0)).toBe(true);
    expect(narrow.texts.filter(({ role }) => role === 'value')).toHaveLength(12);
  });
});
