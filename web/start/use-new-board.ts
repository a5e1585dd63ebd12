import type { Board } from '@sorvik/core/board/board';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemText } from '../app/api';
import { editingApi } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch } from '../app/store';
import { tell } from '../ui/tell';

/** A title that none of the others has: "Ledger", "Ledger 2". */
function freeTitle(title: string, taken: ReadonlySet<string>): string {
  let free = title;
  for (let n = 2; taken.has(free); n++) free = `${title} ${n}`;
  return free;
}

/** Makes a board of a document, under a title of its own, and opens it on the bench; `making` while it is under way. */
export function useNewBoard(): { make(board: Board): Promise<void>; making: boolean } {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const make = async (board: Board) => {
    setMaking(true);
    const held = dispatch(editingApi.endpoints.boards.initiate(undefined, { forceRefetch: true }));
    const { data: boards = [] } = await held;
    const title = freeTitle(board.title, new Set(boards.map(({ document }) => document.title)));
    const made = await dispatch(editingApi.endpoints.createBoard.initiate({ ...board, title }));
    held.unsubscribe();
    setMaking(false);
    if (made.data) navigate(`/boards/${made.data.id}`);
    else
      dispatch(
        noticed({
          text: tell('start.useNewBoard.couldNotCreateTheBoard', { error: problemText(made.error) }),
        }),
      );
  };
  return { make, making };
}
