import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import { offersFor } from '../edit/offers/offers-for';
import { english, englishPlural } from '../messages/locale';
import { board, chart, dataset, quays } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { keyText } from '../words/key-text';
import { chartTitle } from '../words/measure-text';
import { numberText, numberWriter, tickTexts } from '../words/number-text';
import { counted, listed } from '../words/plural';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { chartSentences } from './chart-sentences';
import { reachText } from './lever-reach';

const words = vocabularyOf(board, dataset, fullEngine);
const sentences = (changed = chart, on = board) => chartSentences(changed, on, words).map(sentenceText);

describe('sentences', () => {
  it('say all that a chart does', () => {
    expect(sentences()).toEqual([
      'Shows bars of total boats by quay, largest first.',
      'Lights bars whose quay is in Quays, in orange, outlined; while nothing is picked, all plain.',
      'Filters to rows whose year is in Years; while nothing is picked, all rows.',
      'All other marks are muted, in the normal tone of the board.',
      'On a click on a bar, sets Quays to its quay; a click on the background clears it.',
    ]);
  });
  it('follow form, measure, category and order', () => {
    const other = {
      ...chart,
      form: 'columns',
      by: { field: 'day', grain: 'month' as const },
      measure: { aggregate: 'count' as const },
    };
    expect(
      sentences({ ...other, cues: [], touches: [], order: { by: 'key', direction: 'descending' } }),
    ).toEqual(['Shows columns of number of rows by month, latest first.']);
    expect(chartTitle(other, words)).toBe('Number of rows by month');
    expect(chartTitle(chart, words)).toBe('Boats by quay');
    expect(chartTitle({ ...chart, title: 'Landings' }, words)).toBe('Landings');
  });
  it('say what cannot be done and why', () => {
    const moved = { ...chart, by: { field: 'day', grain: 'year' as const } };
    const problems = chartSentences(moved, board, words).map((sentence) => sentence.problem);
    expect(problems[1]).toBe(
      'Quays holds quay, and this chart shows year: it can filter this chart, not light it.',
    );
    expect(problems[4]).toBe('Quays holds quay, and a mark here gives its year.');
  });
  it('name what is gone by its key', () => {
    const gone = { ...chart, by: { field: 'berth' }, cues: [], touches: [] };
    expect(sentences(gone)[0]).toContain('by berth');
  });
});

describe('captions', () => {
  const caption = (positions: Record<string, unknown>, changed = chart) =>
    runChart(changed, positions, { board: { ...board, charts: [changed] } }).caption();
  it.each([
    [{}, '4 quays, none lit: nothing is picked.'],
    [{ quays: ['Harl'] }, '1 of 4 quays lit: Harl (20).'],
    [{ quays: ['Harl', 'Quel'] }, '2 of 4 quays lit: Quel (40) and Harl (20).'],
    [{ quays: ['Harl'], years: ['2024-01-01'] }, 'Only rows of 2024. 1 of 3 quays lit: Harl (no value).'],
    [{ quays: ['Tarsk'] }, '0 of 4 quays lit: no data for the current position.'],
    [{ years: ['1999-01-01'] }, 'Only rows of 1999. No quays to show.'],
  ])('%o', (positions, expected) => {
    expect(caption(positions)).toBe(expected);
  });
  it('of a donut say what is shown, whatever else its board splits it by', () => {
    const ring = { ...chart, form: 'ring', cues: [], split: { field: 'day', grain: 'year', colours: 'own' } };
    expect(caption({}, ring as typeof chart)).toMatch(/^\d quays\.$/);
  });
  it('tells that all is muted at rest', () => {
    const cues = chart.cues.map((cue) => ({ ...cue, resting: 'muted' as const }));
    expect(caption({}, { ...chart, cues })).toBe('4 quays, all muted: nothing is picked.');
  });
});

describe('offers', () => {
  const offer = (id: string, on = board) =>
    offersFor({ chart: on.charts[0]!, board: on, dataset, words, range: { min: 7, max: 40 } }).find(
      (each) => each.id === id,
    )!;
  it('light and touch in one, making the lever that is needed', () => {
    const draft = { ...board, levers: [], charts: [{ ...chart, cues: [], touches: [] }] };
    offer('light', draft).accept(draft);
    expect(draft.levers).toMatchObject([
      { kind: 'pick', id: 'quay', name: 'Quay', field: 'quay', start: [] },
    ]);
    expect(draft.charts[0]).toMatchObject({
      cues: [{ effect: 'light', condition: { lever: 'quay' } }],
      touches: [{ lever: 'quay' }],
    });
  });
  it('are not made twice', () => {
    expect(offer('light')).toBeUndefined();
    expect(offer('keep day.year')).toBeUndefined();
    expect(offer('keep day.month').text).toBe('Filters by picked months');
  });
  it('use the lever there is', () => {
    const draft = structuredClone({ ...board, charts: [{ ...chart, cues: [] }] });
    offer('keep quay', draft).accept(draft);
    expect(draft.levers).toHaveLength(2);
    expect(draft.charts[0]!.cues[0]).toMatchObject({ effect: 'filter', condition: { lever: quays.id } });
  });
});

it('a lever says what it reaches', () => {
  expect(reachText(board, 'quays')).toBe('lights 1 chart');
  expect(reachText(board, 'years')).toBe('filters 1 chart');
  expect(reachText(board, 'other')).toBe('is not used by any chart yet');
});

describe('texts', () => {
  it.each([
    [1234567, '1,234,567'],
    [-5, '−5'],
    [12.345, '12.35'],
    [123.456, '123.5'],
    [12345.6, '12,346'],
    [0.0001, '1e-4'],
    [0, '0'],
    [Number.NaN, 'no value'],
  ])('%d', (value, text) => {
    expect(numberText(value, english)).toBe(text);
  });
  it('figures beside each other have the same decimals', () => {
    const texts = (values: number[]) => values.map(numberWriter(values, english));
    expect(texts([27, 27.056, Number.NaN])).toEqual(['27.00', '27.06', 'no value']);
    expect(texts([3, 1200.4, 0.4, 1.26])).toEqual(['3', '1,200', '0.40', '1.26']);
    expect(texts([3, 4])).toEqual(['3', '4']);
  });
  it.each([
    [0, '0'],
    [0.25, '0.25'],
    [2500, '2,500'],
    [40_000, '40K'],
    [1_250_000, '1.25M'],
    [3e9, '3B'],
  ])('%d on an axis', (value, text) => {
    expect(tickTexts([value], english)).toEqual([text]);
  });
  it('periods and keys', () => {
    expect(keyText('2021-03-01', english, 'date', 'month')).toBe('Mar 2021');
    expect(keyText('2021-04-01', english, 'date', 'quarter')).toBe('2021 Q2');
    expect(keyText('2021-01-01', english, 'datetime', 'year')).toBe('2021');
    expect(keyText('2021-03-01', english, 'date')).toBe('1 Mar 2021');
    expect(keyText('2021-03-01T04:05:06', english, 'datetime')).toBe('1 Mar 2021 04:05:06');
    expect(keyText(null, english)).toBe('(missing)');
    expect(keyText(2019, english)).toBe('2019');
    expect(keyText(true, english)).toBe('yes');
    expect(keyText('2021-03-01', english, 'text')).toBe('2021-03-01');
  });
  it('plurals and lists', () => {
    expect(['route', 'ferry', 'quay', 'pass', 'vessels', 'box', 'CO2'].map(englishPlural)).toEqual([
      'routes',
      'ferries',
      'quays',
      'passes',
      'vessels',
      'boxes',
      'CO2 values',
    ]);
    expect(counted(1, 'route', english)).toBe('1 route');
    expect(listed(['a', 'b', 'c', 'd'], english, 2)).toBe('a, b and 2 more');
    expect(listed(['a', 'b'], english)).toBe('a and b');
    expect(listed([], english)).toBe('');
  });
});
