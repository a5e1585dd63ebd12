import { describe, expect, it } from 'vitest';
import { idFrom } from '../board/id';
import { board, chart, dataset, quays } from '../testing/fixtures';
import { firstBoard, firstCategory, firstGrain, firstMeasure } from './defaults';
import { readBoard } from './read-board';

const problems = (document: unknown) => {
  const reading = readBoard(document);
  return reading.ok ? [] : reading.problems.map(({ pointer }) => pointer);
};
const withChart = (changes: object) => ({ ...board, charts: [{ ...chart, ...changes }] });

describe('a board document', () => {
  it('is read as it stands', () => {
    expect(readBoard(board)).toEqual({ ok: true, board });
  });
  it.each<[string, unknown, string]>([
    ['no object', [], ''],
    ['no version', { ...board, version: undefined }, '/version'],
    ['a newer version', { ...board, version: 99 }, '/version'],
    ['an empty title', { ...board, title: '' }, '/title'],
    ['a misspelt property', { ...board, chart: [] }, '/chart'],
    ['an unknown kind', { ...board, levers: [{ ...quays, kind: 'crank' }] }, '/levers'],
    ['a chart that is a list', { ...board, charts: [[]] }, '/charts'],
    ['a measure that is a list', withChart({ measure: [] }), '/charts/0/measure'],
    ['a look that is a list', withChart({ cues: [{ ...chart.cues[0], look: [] }] }), '/charts/0/cues/0/look'],
    ['a lever that is no object', { ...board, levers: [null] }, '/levers'],
    ['a missing value in a start', { ...board, levers: [{ ...quays, start: [null] }] }, '/levers/0/start'],
    ['an unknown form', withChart({ form: 'pyramid' }), '/charts/0/form'],
    ['an unknown aggregate', withChart({ measure: { aggregate: 'mode' } }), '/charts/0/measure/aggregate'],
    ['an unknown grain', withChart({ by: { field: 'day', grain: 'fortnight' } }), '/charts/0/by/grain'],
    [
      'a cue on a lever that is not there',
      withChart({ cues: [{ ...chart.cues[0], condition: { kind: 'member', lever: 'gone' } }] }),
      '/charts/0/cues/0/condition',
    ],
    ['an id used twice', { ...board, charts: [chart, chart] }, '/charts/1/id'],
    [
      'a guide at no number',
      withChart({ guides: [{ kind: 'line', id: 'g', at: '5', style: 'solid' }] }),
      '/charts/0/guides/0/at',
    ],
    ['a hostile id', withChart({ id: '../<script>' }), '/charts/0/id'],
  ])('with %s is refused at the place', (_, document, pointer) => {
    expect(problems(JSON.parse(JSON.stringify(document)))).toContain(pointer);
  });
  it('nested without end is refused', () => {
    let deep: unknown = {};
    for (let i = 0; i < 5000; i++) deep = { deep };
    expect(readBoard({ ...board, deep })).toMatchObject({
      ok: false,
      problems: [{ message: 'the document is nested too deeply' }],
    });
  });
  it('of the first shape is brought up to date', () => {
    const { guides: _g, touches: _t, ...old } = chart;
    expect(readBoard({ ...board, version: 0, charts: [old] })).toMatchObject({
      ok: true,
      board: { version: 1, charts: [{ guides: [], touches: [] }] },
    });
  });
});

describe('a first board', () => {
  it('shows a category by a measure, sorted', () => {
    const made = firstBoard(dataset);
    expect(readBoard(made).ok).toBe(true);
    expect(made.charts[0]).toMatchObject({
      form: 'bars',
      by: { field: 'quay' },
      measure: { aggregate: 'sum', field: 'boats' },
      order: { by: 'value', direction: 'descending' },
    });
  });
  const only = (key: string) => ({ ...dataset, fields: dataset.fields.filter((field) => field.key === key) });
  it('counts rows when there is nothing to add up', () => {
    expect(firstMeasure(only('quay'))).toEqual({ aggregate: 'count' });
    const ids = {
      ...dataset,
      rows: 9,
      fields: [
        {
          key: 'ticket',
          name: 'Ticket',
          type: 'integer' as const,
          profile: { count: 9, distinct: 9, missing: 0, min: 1, max: 9 },
        },
      ],
    };
    expect(firstMeasure(ids)).toEqual({ aggregate: 'count' });
  });
  it('takes a date, and whatever there is, when there is no short list', () => {
    expect(firstCategory(only('day'))).toEqual({ field: 'day', grain: 'month' });
    expect(firstBoard(only('day')).charts[0]).toMatchObject({
      form: 'columns',
      order: { by: 'key', direction: 'ascending' },
    });
    expect(
      firstCategory({ ...only('boats'), fields: [{ key: 'boats', name: 'Boats', type: 'decimal' }] }),
    ).toEqual({ field: 'boats' });
  });
  it('cuts dates so that the periods can be taken in', () => {
    const grain = (min: string, max: string) =>
      firstGrain({
        key: 'd',
        name: 'd',
        type: 'date',
        profile: { count: 1, distinct: 1, missing: 0, min, max },
      });
    expect([
      grain('2021-01-01', '2021-01-20'),
      grain('2021-01-01', '2023-01-01'),
      grain('2015-01-01', '2021-01-01'),
      grain('1950-01-01', '2020-01-01'),
    ]).toEqual(['day', 'month', 'quarter', 'year']);
  });
});

it('ids are made of words, each once', () => {
  expect(idFrom('Ångström & Söhne: Δ!')).toBe('angstrom-sohne');
  expect(idFrom('')).toBe('item');
  expect(idFrom('a', ['a', 'a-2'])).toBe('a-3');
  expect(idFrom('x'.repeat(200))).toHaveLength(48);
});
