import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemText } from '../app/api';
import { useBoardsQuery, useDeleteBoardMutation, useFoldBackMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch, useAppSelector } from '../app/store';
import { foldingKept } from '../board/folding-kept';
import { tell, tellWith } from '../ui/tell';

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
          text: tell('bench.scratchBar.changesAppliedThePreviousState'),
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
    dispatch(noticed({ text: tell('bench.scratchBar.theCopyWasDiscarded'), undo: { kind: 'board', id } }));
    navigate(home ? `/boards/${scratchOf}` : '/');
  };
  return (
    <section className="sv-told" aria-label={tell('bench.scratchBar.workingCopy')}>
      <span>
        {refusal ??
          tellWith('bench.scratchBar.changesDoNotAffect', {
            head: <strong key="head">{tell('bench.scratchBar.head')}</strong>,
            named: home ? 'yes' : 'no',
            title: home?.document.title ?? '',
          })}
      </span>
      {home && (
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={folding.isLoading || status !== 'saved'}
          onClick={() => void foldBack(refusal !== undefined)}
        >
          {refusal ? tell('bench.scratchBar.applyAndOverwrite') : tell('bench.scratchBar.applyToTheOriginal')}
        </button>
      )}
      <button type="button" className="btn btn-sm btn-outline-secondary" onClick={() => void throwAway()}>
        {tell('bench.scratchBar.discardCopy')}
      </button>
    </section>
  );
}
