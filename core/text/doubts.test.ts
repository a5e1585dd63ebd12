import { fullEngine } from '@sorvik/formula/full-engine';
import { expect, it } from 'vitest';
import type { DatasetInfo } from '../data/dataset';
import type { Grain } from '../data/dimension';
import { board, chart, dataset } from '../testing/fixtures';
import { vocabularyOf } from '../words/vocabulary';
import { boardDoubts } from './doubts';

const spanning = (min: string, max: string): DatasetInfo => ({
  ...dataset,
  fields: dataset.fields.map((field) =>
    field.key === 'day' ? { ...field, profile: { count: 9, distinct: 9, missing: 0, min, max } } : field,
  ),
});
const said = (grain: Grain, min: string, max: string) => {
  const own = {
    ...board,
    levers: [],
    charts: [{ ...chart, title: 'Boats', by: { field: 'day', grain }, cues: [], guides: [], touches: [] }],
  };
  return boardDoubts(own, {}, () => vocabularyOf(own, spanning(min, max), fullEngine)).map(
    ({ text }) => text,
  );
};

it('says which periods are not whole', () => {
  expect(said('month', '2021-01-01', '2021-12-31')).toEqual([]);
  expect(said('month', '2021-01-02', '2021-12-30')).toEqual([
    'Boats: its first month is not whole: the data begin on 2 Jan 2021.',
    'Boats: its last month is not whole: the data end on 30 Dec 2021.',
  ]);
  expect(said('year', '2021-01-01', '2021-11-30 08:00:00')).toEqual([
    'Boats: its last year is not whole: the data end on 30 Nov 2021.',
  ]);
  expect(said('day', '2021-01-02', '2021-12-30')).toEqual([]);
});

it('asks for the name of a formula that viewers would read', () => {
  const texts = (name?: string) => {
    const measure = {
      aggregate: 'formula' as const,
      text: 'SUM(boats) / COUNT(*)',
      ...(name ? { name } : {}),
    };
    const own = {
      ...board,
      levers: [],
      charts: [{ ...chart, title: 'Boats', measure, cues: [], guides: [], touches: [] }],
    };
    return boardDoubts(own, {}, () => vocabularyOf(own, dataset, fullEngine)).map(({ text }) => text);
  };
  expect(texts()).toEqual(['Boats: its measure has no name: titles and legends say SUM(boats) / COUNT(*).']);
  expect(texts('boats a day')).toEqual([]);
});
