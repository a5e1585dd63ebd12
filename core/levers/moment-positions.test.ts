import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import { readBoard } from '../edit/read-board';
import { removeLever } from '../edit/remove-lever';
import { board, dataset, factsOf, positionsAt, quays, years } from '../testing/fixtures';
import { boardLines } from '../text/board-lines';
import { boardDoubts } from '../text/doubts';
import { vocabularyOf } from '../words/vocabulary';
import { isAtMoment, momentPositions, positionsOfMoment } from './moment-positions';
import type { NumberLever } from './number';
import { positionText } from './position-text';
import { leverKinds } from './registry';

const count: NumberLever = {
  kind: 'number',
  id: 'count',
  name: 'Count',
  min: 0,
  max: 10,
  step: 1,
  start: 3,
  outside: 'nearest',
  clearing: 'start',
};
const levers = [quays, years, count];
const facts = factsOf(levers);
const at = { quays: ['Quel', 'Harl'], count: ['5'] };
const moment = { id: 'm', caption: 'The two largest', at };
const told = { ...board, levers, moments: [moment] };

describe('a moment', () => {
  it('keeps where levers stand that have been moved, and brings them there again', () => {
    const positions = { quays: ['Quel', 'Harl'], count: 5, years: [] };
    expect(momentPositions(levers, positions, facts)).toEqual(at);
    const again = positionsOfMoment(levers, moment);
    expect(again).toEqual({ quays: ['Quel', 'Harl'], count: 5 });
    expect(isAtMoment(levers, moment, again, facts)).toBe(true);
    expect(isAtMoment(levers, moment, { ...again, count: 6 }, facts)).toBe(false);
    // A lever at its start is no part of it, moved there or never moved.
    expect(isAtMoment(levers, { ...moment, at: {} }, { count: 3 }, facts)).toBe(true);
  });
  it('leaves out levers that have gone, or cannot read their part', () => {
    expect(positionsOfMoment([count], moment)).toEqual({ count: 5 });
    expect(positionsOfMoment(levers, { ...moment, at: { count: ['many'], gone: ['x'] } })).toEqual({});
  });
  it('loses a lever that is removed from the board', () => {
    const draft = structuredClone(told);
    removeLever(draft, 'quays', {
      engine: fullEngine,
      lever: (id) => levers.find((each) => each.id === id),
      positionOf: positionsAt(levers, {}),
      today: '2024-12-31',
    });
    expect(draft.moments[0]!.at).toEqual({ count: ['5'] });
  });
  it('is doubtful where it says what cannot be followed', () => {
    const doubts = (at: Record<string, string[]>) =>
      boardDoubts({ ...told, moments: [{ ...moment, at }] }, facts, () =>
        vocabularyOf(told, dataset, fullEngine),
      )
        .map(({ text }) => text)
        .filter((text) => text.startsWith('The two largest'));
    expect(doubts({ quays: ['Quel'], count: ['5'] })).toEqual([]);
    expect(doubts({ gone: ['x'], count: ['many'] })).toEqual([
      'The two largest: the lever gone, which this moment moves, is not there.',
      'The two largest: where Count stands in this moment cannot be read.',
    ]);
    expect(doubts({ count: ['50'] })).toEqual([expect.stringContaining('above')]);
  });
  it('reads as the values it holds, or as what a lever says of none', () => {
    const words = vocabularyOf(told, dataset, fullEngine);
    const year = leverKinds
      .get('choice')
      .make({ id: 'y', name: 'Year', dataset, dimension: { field: 'quay' } });
    expect(
      positionText({ ...year, all: true, allText: 'every quay' } as typeof year, null, undefined, words),
    ).toBe('every quay');
    expect(positionText(board.levers[0]!, [], undefined, words)).toBe('none');
    expect(positionText(board.levers[0]!, ['Quel'], undefined, words)).toBe('Quel');
  });
  it('is part of the document, checked, and told among what a board says', () => {
    expect(readBoard(JSON.parse(JSON.stringify(told))).ok).toBe(true);
    expect(boardLines(told, [], fullEngine)).toContain(
      'Moment The two largest: Quays Quel and Harl, Count 5',
    );
    for (const wrong of [{ count: '5' }, { count: [5] }, { 'no id!': ['5'] }, [], null, 'count=5']) {
      const read = readBoard({ ...told, moments: [{ ...moment, at: wrong }] });
      expect(read.ok).toBe(false);
      if (!read.ok) expect(read.problems[0]!.pointer).toBe('/moments/0/at');
    }
  });
});
