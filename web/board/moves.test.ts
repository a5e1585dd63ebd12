import { board } from '@sorvik/core/testing/fixtures';
import { describe, expect, it } from 'vitest';
import { makeStore } from '../app/store';
import { boardOpened, edit, moveMade, redo, undo } from './board-slice';
import { clockTicked, leverMoved, leversReset, positionsSet } from './positions-slice';

const opened = () => {
  const store = makeStore();
  store.dispatch(
    boardOpened({
      id: 'b',
      revision: 1,
      updatedAt: '',
      document: board,
      published: null,
      publishedAt: null,
      scratchOf: null,
      scratchFrom: null,
    }),
  );
  return store;
};
const move = (position: unknown, passing = false, lever = 'count') =>
  leverMoved({ lever, position, passing });

describe('positions', () => {
  it('know a drag from a finished move', () => {
    const store = opened();
    for (const position of [1, 2, 3]) store.dispatch(move(position, true));
    expect(store.getState().positions).toMatchObject({ now: { count: 3 }, committed: {}, moves: 0 });
    store.dispatch(move(4));
    expect(store.getState().positions).toMatchObject({
      now: { count: 4 },
      committed: { count: 4 },
      moves: 1,
      lever: 'count',
    });
  });
  it('are put back one by one or all together, which is a move too', () => {
    const store = opened();
    store.dispatch(positionsSet({ positions: { count: 4, side: 'lowest' }, unread: ['limit'] }));
    expect(store.getState().positions).toMatchObject({ moves: 0, unread: ['limit'] });
    store.dispatch(leversReset(['count', 'limit']));
    expect(store.getState().positions).toMatchObject({
      now: { side: 'lowest' },
      committed: { side: 'lowest' },
      moves: 1,
      unread: [],
    });
  });
  it('a clock that ticks is no move, even in the middle of a drag', () => {
    const store = opened();
    store.dispatch(move(3, true));
    store.dispatch(clockTicked({ lever: 'now', position: 'noon' }));
    expect(store.getState().positions).toMatchObject({
      now: { count: 3, now: 'noon' },
      committed: { now: 'noon' },
      moves: 0,
    });
  });
  it('a clock that ticks outside a drag leaves nothing unfinished', () => {
    const store = opened();
    store.dispatch(move(3));
    store.dispatch(clockTicked({ lever: 'now', position: 'noon' }));
    const { now, committed } = store.getState().positions;
    expect(now).toBe(committed);
    expect(now).toEqual({ count: 3, now: 'noon' });
  });
  it('a lever that is moved is no longer one that could not be read', () => {
    const store = opened();
    store.dispatch(positionsSet({ positions: {}, unread: ['count', 'side'] }));
    store.dispatch(move(3, true));
    expect(store.getState().positions.unread).toEqual(['side']);
  });
});

describe('moves on the bench', () => {
  const made = (before: object, joins = false) =>
    moveMade({ label: 'Count moved', positions: before as never, joins });
  it('are undone and done again between changes of the board', () => {
    const store = opened();
    const now = () => store.getState().positions.now;
    const title = () => store.getState().board.document?.title;
    store.dispatch(move(4));
    store.dispatch(made({}));
    store.dispatch(
      edit('the title', (draft) => {
        draft.title = 'other';
      }),
    );
    store.dispatch(move(9));
    store.dispatch(made({ count: 4 }));
    store.dispatch(undo());
    expect([now(), title()]).toEqual([{ count: 4 }, 'other']);
    store.dispatch(undo());
    expect([now(), title()]).toEqual([{ count: 4 }, 'Landings']);
    store.dispatch(undo());
    expect(now()).toEqual({});
    store.dispatch(undo());
    expect(now()).toEqual({});
    for (let i = 0; i < 3; i++) store.dispatch(redo());
    expect([now(), title()]).toEqual([{ count: 9 }, 'other']);
  });
  it('that follow each other closely are one step, which begins where the first began', () => {
    const store = opened();
    store.dispatch(move(4));
    store.dispatch(made({}));
    store.dispatch(move(5));
    store.dispatch(made({ count: 4 }, true));
    store.dispatch(undo());
    expect(store.getState().positions.now).toEqual({});
    expect(store.getState().board.past).toEqual([]);
  });
  it('never make the board unsaved', () => {
    const store = opened();
    store.dispatch(move(4));
    store.dispatch(made({}));
    const { document, saved } = store.getState().board;
    expect(document).toBe(saved);
    store.dispatch(undo());
    expect(store.getState().board.document).toBe(saved);
  });
});
