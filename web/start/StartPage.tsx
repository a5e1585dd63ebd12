import { firstBoard } from '@sorvik/core/edit/defaults';
import { startersFor } from '@sorvik/core/edit/starters/starters-for';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { useDatasetQuery } from '../app/api';
import { BoardPicture } from '../board/BoardPicture';
import { NoDataset } from '../dataset/NoDataset';
import { TopBar } from '../ui/TopBar';
import { useNewBoard } from './use-new-board';

/** What a board begins with: questions that this dataset can answer, each as it would look with its own data. */
export function StartPage() {
  const { id = '' } = useParams();
  const { data: dataset, error } = useDatasetQuery(id, { refetchOnMountOrArgChange: true });
  const { make, making } = useNewBoard();
  const starters = useMemo(() => (dataset ? startersFor(dataset) : []), [dataset]);
  if (error) return <NoDataset error={error} />;
  if (!dataset) return <p className="sv-loading">Looking at every field ..</p>;
  const plain = {
    id: 'plain',
    question: 'A plain chart',
    says: 'Nothing lights up yet: say it yourself.',
    board: firstBoard(dataset),
  };
  return (
    <>
      <title>{`A new board from ${dataset.name} · Sorvik`}</title>
      <TopBar place={<Link to={`/datasets/${id}`}>{dataset.name}</Link>} />
      <main className="sv-page">
        <h1>A new board from {dataset.name}</h1>
        <p className="sv-hint">
          {starters.length
            ? 'What do you want to see? Each of these is ready to be operated, and everything in it can be changed.'
            : 'Nothing in this dataset says by itself what it is about: begin with a plain chart.'}
        </p>
        <div className="sv-cards">
          {[...starters, plain].map(({ id: starter, question, says, board }) => (
            <button
              key={starter}
              type="button"
              className="sv-card sv-starter"
              data-starter={starter}
              disabled={making}
              onClick={() => make(board)}
            >
              <BoardPicture board={board} />
              <strong>{question}</strong>
              <small>{says}</small>
            </button>
          ))}
        </div>
      </main>
    </>
  );
}
