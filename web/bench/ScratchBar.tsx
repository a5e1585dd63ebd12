import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemText } from '../app/api';
import { useBoardsQuery, useDeleteBoardMutation, useFoldBackMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch, useAppSelector } from '../app/store';
import { foldingKept } from '../board/folding-kept';

/** On a copy to try something on: what it is a copy of, and the two ways out of it. */
export function ScratchBar() {
  const { id, scratchOf, status } = useAppSelector((state) => state.board);
  const { data: boards } = useBoardsQuery();
  const [fold, folding] = useFoldBackMutation();
  const [remove] = useDeleteBoardMutation();
  const [refusal, setRefusal] = useState<string>();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  if (!id || scratchOf === null) return null;
  const home = boards?.find((board) => board.id === scratchOf);
  const foldBack = async (anyway: boolean) => {
    const made = await fold({ id, anyway });
    if (made.data) {
      await dispatch(foldingKept(scratchOf, made.data));
      dispatch(
        noticed({
          text: 'Changes applied. The previous state is under Versions.',
          undo: { kind: 'fold', id: scratchOf, scratch: id, revision: made.data.revision },
        }),
      );
      navigate(`/boards/${scratchOf}`);
      return;
    }
    if ((made.error as { status?: unknown }).status === 412) setRefusal(problemText(made.error));
    else dispatch(noticed({ text: problemText(made.error) }));
  };
  const throwAway = async () => {
    const made = await remove(id);
    if ('error' in made && made.error) {
      dispatch(noticed({ text: problemText(made.error) }));
      return;
    }
    dispatch(noticed({ text: 'The copy was discarded.', undo: { kind: 'board', id } }));
    navigate(home ? `/boards/${scratchOf}` : '/');
  };
  return (
    <section className="sv-told" aria-label="Working copy">
      <span>
        {refusal ?? (
          <>
            <strong>Working copy.</strong> Changes here do not affect
            {home ? ` "${home.document.title}".` : ' the board it was made of, which was deleted.'}
          </>
        )}
      </span>
      {home && (
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={folding.isLoading || status !== 'saved'}
          onClick={() => void foldBack(refusal !== undefined)}
        >
          {refusal ? 'Apply and overwrite' : 'Apply to the original'}
        </button>
      )}
      <button type="button" className="btn btn-sm btn-outline-secondary" onClick={() => void throwAway()}>
        Discard copy
      </button>
    </section>
  );
}
