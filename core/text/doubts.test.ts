import { fullEngine } from '@sorvik/formula/full-engine';
import { expect, it } from 'vitest';
import type { Cue } from '../board/cue';
import type { DatasetInfo } from '../data/dataset';
import type { Grain } from '../data/dimension';
import { newCue } from '../edit/defaults';
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

it('says that looks differ by colour alone; what is begun here never does', () => {
  const cues: Cue[] = [];
  for (const side of ['highest', 'lowest'] as const)
    cues.push(newCue(side, { kind: 'rank', count: 1, side, ties: 'share' }, cues));
  const texts = (changed: Cue[]) => {
    const own = {
      ...board,
      levers: [],
      charts: [{ ...chart, title: 'Boats', cues: changed, guides: [], touches: [] }],
    };
    return boardDoubts(own, {}, () => vocabularyOf(own, dataset, fullEngine)).map(({ text }) => text);
  };
  expect(texts(cues)).toEqual([]);
  const bare = cues.map((cue) => ({ ...cue, look: { colour: cue.look.colour! } }));
  expect(texts(bare)).toEqual([
    'Boats: its looks in orange and green differ by colour alone. Outline or hatch one of them.',
  ]);
  expect(texts([bare[0]!, { ...bare[1]!, off: true }])).toEqual([]);
  expect(texts([bare[0]!, { ...bare[1]!, look: { ...bare[1]!.look, hatch: true } }])).toEqual([]);
});
