import { memberCue } from '@sorvik/core/edit/defaults';
import { board, chart } from '@sorvik/core/testing/fixtures';
import fc from 'fast-check';
import { produce } from 'immer';
import { describe, expect, it } from 'vitest';
import type { BoardState } from './board-slice';
import {
  boardOpened,
  boardSlice,
  chartChosen,
  edited,
  mineKept,
  redone,
  savedAs,
  theirsFound,
  theirsTaken,
  tried,
  tryBegun,
  tryDropped,
  tryKept,
  undone,
} from './board-slice';

const { reducer } = boardSlice;
const unpublished = { published: null, publishedAt: null, scratchOf: null, scratchFrom: null };
const saved = (title: string, revision: number) => ({
  id: 'b',
  revision,
  updatedAt: '',
  ...unpublished,
  document: { ...board, title },
});
const opened = () => reducer(undefined, boardOpened(saved('one', 1)));
const titled = (title: string) => edited({ label: 'the title', document: { ...board, title } });
const run = (state: BoardState, ...actions: Parameters<typeof reducer>[1][]) =>
  actions.reduce(reducer, state);
const titleOf = (state: BoardState) => state.document?.title;

describe('undo and redo', () => {
  it('go back and forth, and a new step ends the way forth', () => {
    let state = run(opened(), titled('two'), titled('three'));
    expect(titleOf(state)).toBe('three');
    state = run(state, undone());
    expect(titleOf(state)).toBe('two');
    state = run(state, redone());
    expect(titleOf(state)).toBe('three');
    state = run(state, undone(), titled('other'), redone());
    expect(titleOf(state)).toBe('other');
    expect(state.past.map((step) => step.label)).toEqual(['the title', 'the title']);
  });

  it('any walk over any edits ends where counting steps says', () => {
    const move = fc.oneof(fc.constant('undo' as const), fc.constant('redo' as const), fc.integer());
    fc.assert(
      fc.property(fc.array(move), (moves) => {
        let state = opened();
        let line = ['one'];
        let at = 0;
        for (const each of moves) {
          if (each === 'undo') at = Math.max(0, at - 1);
          else if (each === 'redo') at = Math.min(line.length - 1, at + 1);
          else {
            line = [...line.slice(0, at + 1), `title ${each}`];
            at++;
          }
          state = reducer(
            state,
            each === 'undo' ? undone() : each === 'redo' ? redone() : titled(`title ${each}`),
          );
        }
        expect(titleOf(state)).toBe(line[at]);
        expect(state.past).toHaveLength(at);
        expect(state.future).toHaveLength(line.length - 1 - at);
      }),
    );
  });

  it('share what did not change', () => {
    const next = produce(board, (draft) => {
      draft.charts[0]!.cues.push(memberCue('quays', ['light-quays', 'filter-years']));
    });
    const state = run(opened(), edited({ label: 'a sentence', document: next }));
    expect(state.document!.levers).toBe(board.levers);
  });
});

describe('a try', () => {
  it('is one step when it is kept', () => {
    const state = run(
      opened(),
      tryBegun(),
      tried({ ...board, title: 'a' }),
      tried({ ...board, title: 'b' }),
      tryKept('the title'),
    );
    expect(titleOf(state)).toBe('b');
    expect(state.past).toHaveLength(1);
    expect(titleOf(run(state, undone()))).toBe('one');
  });
  it('changes nothing when it is dropped, and can be had again by redo', () => {
    const before = opened();
    const state = run(before, tryBegun(), tried({ ...board, title: 'a' }), tryDropped('the title'));
    expect(state.document).toBe(before.document);
    expect(state.past).toHaveLength(0);
    expect(state.before).toBeNull();
    expect(titleOf(run(state, redone()))).toBe('a');
    expect(titleOf(run(state, redone(), undone()))).toBe('one');
    expect(run(before, tryBegun(), tryDropped('the title')).future).toHaveLength(0);
  });
  it('that is dropped leaves what was undone before it to be done again', () => {
    const undoneOnce = run(opened(), titled('two'), undone());
    const state = run(undoneOnce, tryBegun(), tried({ ...board, title: 'a' }), tryDropped('the title'));
    expect(titleOf(run(state, redone(), redone()))).toBe('two');
  });
  it('is what undo takes back while it lasts', () => {
    const trying = run(opened(), titled('two'), tryBegun(), tried({ ...board, title: 'tried' }));
    const taken = run(trying, undone());
    expect(titleOf(taken)).toBe('two');
    expect(taken.past).toHaveLength(1);
    expect(titleOf(run(taken, tryKept('the title')))).toBe('two');
    expect(titleOf(run(trying, redone()))).toBe('tried');
  });
  it('that changes nothing is no step', () => {
    expect(run(opened(), tryBegun(), tryKept('the title')).past).toHaveLength(0);
  });
});

describe('somebody else', () => {
  it('keeps all waiting until it is decided', () => {
    const state = run(opened(), titled('mine'), theirsFound(saved('theirs', 5)));
    expect(state).toMatchObject({ theirs: { revision: 5 }, status: 'waiting' });
    expect(titleOf(state)).toBe('mine');
  });
  it('is overwritten by mine from their revision on', () => {
    const state = run(opened(), titled('mine'), theirsFound(saved('theirs', 5)), mineKept());
    expect(state).toMatchObject({ revision: 5, theirs: null, saved: { title: 'theirs' } });
    expect(titleOf(state)).toBe('mine');
  });
  it('takes the place of mine, which undo brings back', () => {
    const state = run(
      opened(),
      titled('mine'),
      theirsTaken({ board: saved('theirs', 5), notice: 'changed elsewhere' }),
    );
    expect(state).toMatchObject({ revision: 5, notice: 'changed elsewhere', status: 'saved' });
    expect(titleOf(state)).toBe('theirs');
    expect(titleOf(run(state, undone()))).toBe('mine');
  });
});

describe('the chart in hand', () => {
  const second = { ...chart, id: 'second' };
  const two = { ...board, charts: [chart, second] };
  it('is another one when it is removed', () => {
    const state = run(opened(), edited({ label: 'a chart', document: two }), chartChosen('second'));
    expect(state.chart).toBe('second');
    expect(run(state, undone()).chart).toBe('landings');
    expect(run(state, edited({ label: 'none', document: { ...board, charts: [] } })).chart).toBeUndefined();
  });
});

it('a save leaves what has been changed since to be saved', () => {
  const sent = { ...board, title: 'sent' };
  const state = run(
    opened(),
    edited({ label: 'x', document: sent }),
    titled('later'),
    savedAs({ revision: 2, document: sent }),
  );
  expect(state.saved).toBe(sent);
  expect(titleOf(state)).toBe('later');
});
