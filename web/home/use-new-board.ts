import { firstBoard } from '@sorvik/core/edit/defaults';
import { useNavigate } from 'react-router';
import { api, problemText } from '../app/api';
import { editingApi } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch } from '../app/store';

/** Makes a board with a first chart of a dataset and opens it on the bench. */
export function useNewBoard(): (dataset: string) => Promise<void> {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  return async (id) => {
    // Held until the board is made: what nobody holds is forgotten as soon as any dataset changes, even while it is fetched.
    const held = dispatch(api.endpoints.dataset.initiate(id, { forceRefetch: true }));
    const dataset = await held;
    const made =
      dataset.data && (await dispatch(editingApi.endpoints.createBoard.initiate(firstBoard(dataset.data))));
    held.unsubscribe();
    if (made?.data) navigate(`/boards/${made.data.id}`);
    else
      dispatch(
        noticed({ text: `The board could not be made. ${problemText(dataset.error ?? made?.error)}` }),
      );
  };
}
