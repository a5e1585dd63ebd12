import type { Board } from '@sorvik/core/board/board';
import { datasetsOf } from '@sorvik/core/board/board';
import type { DatasetView } from '@sorvik/core/exchange';
import { kindOf } from '@sorvik/core/levers/registry';
import { chartSentences } from '@sorvik/core/words/chart-sentences';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { sentenceText } from '@sorvik/core/words/sentence';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { useNavigate } from 'react-router';
import { useCreateBoardMutation, useDatasetsQuery } from '../app/api';
import { useAppDispatch, useAppSelector } from '../app/store';
import { BoardPicture } from '../board/BoardPicture';
import { mineKept, theirsTaken } from '../board/board-slice';

/** All that a board says, line by line, for telling two states of it apart. */
function linesOf(board: Board, datasets: DatasetView[]): string[] {
  return [
    `Title: ${board.title}`,
    ...board.levers.map(
      (lever) =>
        `Lever ${lever.name}: ${kindOf(lever).noun}, starts with ${kindOf(lever).summary(lever, kindOf(lever).start(lever, undefined), undefined)}, clearing ${lever.clearing}`,
    ),
    ...board.charts.flatMap((chart) => {
      const words = vocabularyOf(
        board,
        datasets.find(({ id }) => id === chart.dataset),
      );
      return chartSentences(chart, board, words).map(
        (sentence) => `${chartTitle(chart, words)}: ${sentenceText(sentence)}`,
      );
    }),
  ];
}

/** Somebody else saved this board while it was being changed here: both states side by side, and what to keep. */
export function ConflictBar() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const theirs = useAppSelector((state) => state.board.theirs);
  const mine = useAppSelector((state) => state.board.document);
  const { data: datasets = [] } = useDatasetsQuery();
  const [createBoard] = useCreateBoardMutation();
  if (!theirs || !mine) return null;
  const known = datasets.filter(
    ({ id }) => datasetsOf(mine).includes(id) || datasetsOf(theirs.document).includes(id),
  );
  const hereLines = linesOf(mine, known);
  const thereLines = linesOf(theirs.document, known);
  const sides = [
    { name: 'Here', board: mine, only: hereLines.filter((line) => !thereLines.includes(line)) },
    {
      name: `Elsewhere, saved ${new Date(theirs.updatedAt).toLocaleTimeString('en-GB')}`,
      board: theirs.document,
      only: thereLines.filter((line) => !hereLines.includes(line)),
    },
  ];
  const keepCopy = async () => {
    const made = await createBoard({ ...mine, title: `${mine.title.slice(0, 180)} (my changes)` });
    if (!made.data) return;
    dispatch(theirsTaken({ board: theirs }));
    navigate(`/boards/${made.data.id}`);
  };
  return (
    <section className="sv-conflict" role="alert" aria-label="This board was changed elsewhere">
      <p>
        <strong>This board was changed elsewhere while you changed it here.</strong> Nothing is lost: choose
        what to go on with.
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
              {!only.length && <li>Nothing that the other one lacks.</li>}
            </ul>
          </div>
        ))}
      </div>
      <div className="sv-row">
        <button type="button" className="btn btn-sm btn-primary" onClick={() => dispatch(mineKept())}>
          Go on with mine
        </button>
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          onClick={() => dispatch(theirsTaken({ board: theirs }))}
        >
          Go on with theirs
        </button>
        <button type="button" className="btn btn-sm btn-outline-secondary" onClick={keepCopy}>
          Keep both: mine as a new board
        </button>
        <small>The other state stays in the board's versions.</small>
      </div>
    </section>
  );
}
