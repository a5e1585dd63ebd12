import { boardForViewers } from '@sorvik/core/edit/for-viewers';
import type { Context } from 'hono';
import type { StoredBoard, StoredVersion } from './store';

/** The largest revision that can be kept. */
export const mostRevisions = 2_147_483_647;

export const etag = (revision: number) => `"${revision}"`;

/** A board as its viewers get it. */
export const forViewers = (board: StoredVersion): StoredVersion => ({
  ...board,
  document: boardForViewers(board.document),
});

/** A board as its authors get it. */
export const shown = (c: Context, board: StoredBoard, status: 200 | 201 = 200) =>
  c.json(board, status, { etag: etag(board.revision) });
