import { datasetsOf } from '@sorvik/core/board/board';
import { boardLines, linesOnlyIn } from '@sorvik/core/text/board-lines';
import { useNavigate } from 'react-router';
import { useCreateBoardMutation, useDatasetsQuery, useNameVersionMutation } from '../app/editing-api';
import { useAppDispatch, useAppSelector } from '../app/store';
import { BoardPicture } from '../board/BoardPicture';
import { mineKept, theirsTaken } from '../board/board-slice';
import { formulaEngine } from '../board/formula-engine';
import { tell } from '../ui/tell';

/** Somebody else saved this board while it was being changed here: both states side by side, and what to keep. */
export function ConflictBar() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const theirs = useAppSelector((state) => state.board.theirs);
  const mine = useAppSelector((state) => state.board.document);
  const { data: datasets = [] } = useDatasetsQuery();
  const openId = useAppSelector((state) => state.board.id);
  const [createBoard] = useCreateBoardMutation();
  const [nameVersion] = useNameVersionMutation();
  if (!theirs || !mine) return null;
  const known = datasets.filter(
    ({ id }) => datasetsOf(mine).includes(id) || datasetsOf(theirs.document).includes(id),
  );
  const hereLines = boardLines(mine, known, formulaEngine());
  const thereLines = boardLines(theirs.document, known, formulaEngine());
  const sides = [
    { name: tell('bench.conflictBar.here'), board: mine, only: linesOnlyIn(hereLines, thereLines) },
    {
      name: tell('bench.conflictBar.elsewhereSaved', {
        when: new Date(theirs.updatedAt).toLocaleTimeString('en-GB'),
      }),
      board: theirs.document,
      only: linesOnlyIn(thereLines, hereLines),
    },
  ];
  const keepMine = () => {
    // With a name it stands in the list of versions, however soon it is followed by others.
    if (openId)
      void nameVersion({
        id: openId,
        revision: theirs.revision,
        name: tell('bench.conflictBar.overwrittenByMyChanges'),
      });
    dispatch(mineKept());
  };
  const keepCopy = async () => {
    const made = await createBoard({
      ...mine,
      title: tell('bench.conflictBar.mineMyChanges', { mine: mine.title.slice(0, 180) }),
    });
    if (!made.data) return;
    dispatch(theirsTaken({ board: theirs }));
    navigate(`/boards/${made.data.id}`);
  };
  return (
    <section
      className="sv-conflict"
      role="alert"
      aria-label={tell('bench.conflictBar.thisBoardWasChangedElsewhere')}
    >
      <p>
        <strong>{tell('bench.conflictBar.changedWhileYouChangedIt')}</strong>{' '}
        {tell('bench.conflictBar.nothingIsLostChooseWhat')}
      </p>
      <div className="sv-conflict-sides">
        {sides.map(({ name, board, only }) => (
          <div key={name}>
            <h3>{name}</h3>
            <BoardPicture board={board} />
            <ul>
              {only.map((line) => (
                <li key={line}>{line}</li>
              ))}
              {!only.length && <li>{tell('bench.conflictBar.noDifferencesToList')}</li>}
            </ul>
          </div>
        ))}
      </div>
      <div className="sv-row">
        <button type="button" className="btn btn-sm btn-primary" onClick={keepMine}>
          {tell('bench.conflictBar.keepMyChanges')}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          onClick={() => dispatch(theirsTaken({ board: theirs }))}
        >
          {tell('bench.conflictBar.keepTheOtherChanges')}
        </button>
        <button type="button" className="btn btn-sm btn-outline-secondary" onClick={keepCopy}>
          {tell('bench.conflictBar.keepBothSaveMineAs')}
        </button>
        <small>{tell('bench.conflictBar.theOtherOneStaysUnder')}</small>
      </div>
    </section>
  );
}
