import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { Measure } from '../board/measure';
import { newCue } from '../edit/defaults';
import { cubeOfRows, randomFrom } from '../testing/cube-of-rows';
import { board, chart, dataset, stretch } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { chartSentences } from '../text/chart-sentences';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';

const rows: Measure = { aggregate: 'count' };
const mean: Measure = { aggregate: 'average', field: 'boats' };
const run = (more: Partial<Chart>, board: Board = { ...chartBoard }) =>
  runChart({ ...chart, touches: [], ...more }, {}, { board });
const chartBoard = board;
const ranked = (count: number, more: object = {}) =>
  newCue('top', { kind: 'rank', count, side: 'highest', ties: 'share', ...more }, []);
const limited = (is: 'at or above' | 'between', limit: number, more: object = {}) =>
  newCue('limit', { kind: 'threshold', is, limit, ...more }, []);

describe('a figure is told in the unit of its own measure', () => {
  it('on a chart of shares', () => {
    const shares: Measure = { aggregate: 'sum', field: 'boats', share: 'everything' };
    const { why, value } = run({ measure: shares, cues: [ranked(1, { measure: mean })] });
    expect(value(2)).toBe('21.74%');
    expect(why(2)).toBe('Lit: rank 1 of 4 from the highest by average boats (10), within 1.');
  });

  it('on a chart in money', () => {
    const money: Measure = { aggregate: 'sum', field: 'boats', format: { as: 'number', unit: '€' } };
    const { why, value } = run({ measure: money, cues: [limited('at or above', 5, { measure: rows })] });
    expect(value(0)).toBe('40\u00a0€');
    expect(why(0)).toBe('Lit: number of rows 5 is at or above 5.');
  });

  it('of two measures, each its own', () => {
    const inMoney: Measure = { aggregate: 'sum', field: 'boats', format: { as: 'number', unit: '€' } };
    const { why, value } = run({ measure: rows, also: [{ measure: inMoney }], cues: [ranked(1)] });
    expect(value(4)).toBe('25\u00a0€');
    expect(why(4)).toBe('Lit: rank 1 of 4 from the highest by number of rows (5, shared by 2), within 1.');
  });
});

it('of those that are alike, whoever stands behind the count says which of them it is', () => {
  const { why } = run({ measure: rows, cues: [ranked(1, { ties: 'first' })] });
  expect(why(0)).toBe(
    'Lit: rank 1 of 4 from the highest by number of rows (5, the 1st of 2 alike), within 1.',
  );
  expect(why(1)).toBe(
    'Muted: rank 2 of 4 from the highest by number of rows (5, the 2nd of 2 alike); the count is 1.',
  );
});

it('a base that stands muted beside what is lit does not speak of a rank within the count', () => {
  const twice: Measure = { aggregate: 'formula', text: 'SUM(boats) * 2', name: 'twice' };
  for (const measure of [undefined, twice]) {
    const { why } = run({
      also: [{ measure: twice, base: 'muted' }],
      cues: [ranked(2, measure ? { measure } : {})],
    });
    expect(why(0)).toBe('Muted: total boats is what twice is compared with; only twice lights up.');
    expect(why(4)).toMatch(/^Lit: rank 1 of 4 from the highest by /);
  }
});

it('a figure and its limit are told with as many digits as it takes to tell them apart', () => {
  const nearly: Measure = {
    aggregate: 'formula',
    text: 'SUM(boats) * 24.999',
    format: { as: 'number', decimals: 1 },
  };
  const { why } = run({ measure: nearly, cues: [limited('at or above', 1000)] });
  expect(why(0)).toBe('Muted: 999.96 is not at or above 1,000.0.');
});

it('a range says which of its ends belongs to it, wherever it is spoken of', () => {
  const cues = [limited('between', 20, { upper: 40 })];
  const { why, legend } = run({ cues });
  // Quel has 40 boats, Ostrin 25, Harl 20.
  expect([0, 1, 2].map((i) => why(i))).toEqual([
    'Muted: 40 is not below 40.',
    'Lit: 25 is at or above 20 and below 40.',
    'Lit: 20 is at or above 20 and below 40.',
  ]);
  expect(legend()[0]!.text).toBe('at or above 20 and below 40');
  const said = chartSentences({ ...chart, cues }, board, vocabularyOf(board, dataset, fullEngine)).map(
    sentenceText,
  );
  expect(said[1]).toMatch(/^Lights bars from 20 to just under 40,/);
});

it('a chart that compares ranks by what it shows, and says so', () => {
  const { why } = run({ compare: { with: 'average', as: 'difference' }, cues: [ranked(1)] });
  expect(why(0)).toBe(
    'Lit: +17 is above 0; rank 1 of 4 from the highest by difference in total boats (+17), within 1.',
  );
});

it('where all is lit, a caption tells each look’s stretches, and not the first few days', () => {
  const day = (i: number) => new Date(Date.UTC(2024, 4, 1 + i)).toISOString().slice(0, 10);
  const landed = Array.from({ length: 120 }, (_, i) => ({ day: day(i), boats: (i * 7) % 13 }));
  const cube = cubeOfRows(
    landed,
    [{ field: 'day', grain: 'day' }],
    [{ aggregate: 'sum', field: 'boats' }, { aggregate: 'first' }],
    randomFrom(1),
  );
  const on: Board = { ...board, levers: [{ ...stretch, dataset: 'landings' }] };
  const strong = newCue('strong', { kind: 'span', lever: 'stretch', match: 'touching' }, []);
  const rest = newCue('rest', { kind: 'threshold', is: 'at or above', limit: -1 }, []);
  const { caption } = runChart(
    {
      ...chart,
      by: { field: 'day', grain: 'day' },
      order: { by: 'key', direction: 'ascending' },
      cues: [
        { ...strong, look: { colour: 'tide', weight: 'heavy' } },
        { ...rest, look: { colour: 'kelp' } },
      ],
      touches: [],
    },
    { stretch: { from: '2024-06-15', to: '2024-07-10' } },
    { board: on, cube },
  );
  expect(caption()).toBe(
    '120 of 120 days lit: 15 Jun 2024 – 10 Jul 2024 in blue, heavy; 1 May 2024 – 14 Jun 2024 and 11 Jul 2024 – 28 Aug 2024 in green.',
  );
});
