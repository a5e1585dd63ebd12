import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import { plainChart, plainCue, plainPick } from '../testing/documents';
import { dataset } from '../testing/fixtures';
import { boardQuestions } from './board-questions';

const id = dataset.id;
const board = {
  version: 1,
  title: 'Landings',
  levers: [plainPick(id, 'quay', 'quays', 'Quays')],
  charts: [
    plainChart(id, {
      by: { field: 'day', grain: 'year' },
      measure: { aggregate: 'sum', field: 'boats' },
      cues: [plainCue('filter', 'quays')],
    }),
    plainChart('elsewhere', { id: 'other', by: { field: 'boats' }, measure: { aggregate: 'count' } }),
  ],
} as unknown as Board;
const { has, listed } = boardQuestions(board, dataset, fullEngine);
const year = { field: 'day', grain: 'year' } as const;
const boats = { aggregate: 'sum', field: 'boats' } as const;
const count = { aggregate: 'count' } as const;

describe('the page of a board asks', () => {
  it.each([
    ['for its figures, with all that its levers filter by', [year, { field: 'quay' }], [boats], []],
    ['for them with what the levers keep', [year], [boats], [{ field: 'quay', values: ['Quel'] }]],
    ['for what its shares are of', [], [boats], []],
    ['for the values of its levers', [{ field: 'quay' }], [count], []],
    ['how many combinations there are', [year, { field: 'quay' }], [], []],
  ])('%s', (_what, keys, partials, kept) => {
    expect(has({ keys, partials, kept })).toBe(true);
  });

  it.each([
    ['a finer date', [{ field: 'day', grain: 'day' }], [boats], []],
    ['another figure', [year], [{ aggregate: 'min', field: 'boats' }], []],
    ['another field', [{ field: 'boats' }], [count], []],
    ['figures of rows that no lever keeps', [year], [boats], [{ field: 'boats', ranges: [[5, 5]] }]],
    ['figures by what is only listed, with another aggregate', [{ field: 'quay' }], [boats, count], []],
  ] as const)('never for %s', (_what, keys, partials, kept) => {
    expect(has({ keys: [...keys], partials: [...partials], kept: kept as never })).toBe(false);
  });

  it('for the lists of its levers', () => {
    expect([...listed]).toEqual(['quay']);
  });
});
