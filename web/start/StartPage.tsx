import type { Board } from '@sorvik/core/board/board';
import { firstBoard } from '@sorvik/core/edit/defaults';
import type { Starter } from '@sorvik/core/edit/starters/starter';
import { startersFor } from '@sorvik/core/edit/starters/starters-for';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useDatasetQuery } from '../app/api';
import { BoardPicture } from '../board/BoardPicture';
import { useReadingRange } from '../chart/use-reading-range';
import { NoDataset } from '../dataset/NoDataset';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';
import { useNewBoard } from './use-new-board';

/** So long a board waits for its data, ms. */
const longestWait = 4000;

interface CardProps {
  starter: Starter;
  disabled: boolean;
  onTake(board: Board): void;
}

/** A question, with the live picture of what answers it. */
function StarterCard({ starter, disabled, onTake }: CardProps) {
  const { id, question, says, withRange } = starter;
  const range = useReadingRange(starter.board.charts[0]!, starter.board, withRange !== undefined);
  const board = useMemo(
    () => (range && withRange ? withRange(range) : starter.board),
    [range, withRange, starter.board],
  );
  // Who is faster than the data waits for it a moment: the board is to be the one that is promised.
  const [wanted, setWanted] = useState(false);
  const ready = withRange === undefined || range !== undefined;
  useEffect(() => {
    if (!wanted) return;
    const take = () => {
      setWanted(false);
      onTake(board);
    };
    const timer = setTimeout(take, ready ? 0 : longestWait);
    return () => clearTimeout(timer);
  }, [wanted, ready, board, onTake]);
  return (
    <button
      type="button"
      className="sv-card sv-starter"
      data-starter={id}
      disabled={disabled}
      onClick={() => (ready ? onTake(board) : setWanted(true))}
    >
      <BoardPicture board={board} />
      <strong>{question}</strong>
      <small>{says}</small>
    </button>
  );
}

/** Whoever came here by a link goes on from what the page is about, not from its top. */
const focusOnce = (heading: HTMLElement | null) => heading?.focus({ preventScroll: true });

/** What a board begins with: questions that this dataset can answer, each as it would look with its own data. */
export function StartPage() {
  const { id = '' } = useParams();
  const { data: dataset, error } = useDatasetQuery(id, { refetchOnMountOrArgChange: true });
  const { make, making } = useNewBoard();
  const starters = useMemo(() => (dataset ? startersFor(dataset) : []), [dataset]);
  if (error) return <NoDataset error={error} />;
  if (!dataset) return <p className="sv-loading">{tell('start.startPage.loading')}</p>;
  const plain = {
    id: 'plain',
    question: tell('start.startPage.aPlainChart'),
    says: tell('start.startPage.nothingLightsUpYetSay'),
    board: firstBoard(dataset),
  };
  return (
    <>
      <title>{tell('start.startPage.aNewBoardFromDataset', { dataset: dataset.name })}</title>
      <TopBar place={<Link to={`/datasets/${id}`}>{dataset.name}</Link>} />
      <main className="sv-page">
        <h1 tabIndex={-1} ref={focusOnce}>
          {tell('start.startPage.heading', { dataset: dataset.name })}
        </h1>
        <p className="sv-hint">
          {starters.length
            ? tell('start.startPage.whatDoYouWantTo')
            : tell('start.startPage.nothingInThisDatasetSays')}
        </p>
        <div className="sv-cards">
          {[...starters, plain].map((starter) => (
            <StarterCard key={starter.id} starter={starter} disabled={making} onTake={make} />
          ))}
        </div>
      </main>
    </>
  );
}
