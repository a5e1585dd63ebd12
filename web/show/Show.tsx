import { Link, useParams } from 'react-router';
import { problemText, useBoardQuery } from '../app/api';
import { usePositionAddress } from '../board/use-position-address';
import { ChartFigure } from '../chart/ChartFigure';
import { LeverGroup } from '../levers/LeverGroup';
import { Guard } from '../ui/Guard';

/** What a viewer sees: levers and charts, and nothing of the machinery. */
export function Show() {
  const { id = '' } = useParams();
  const { data, error } = useBoardQuery(id);
  const board = data?.document;
  usePositionAddress(board ? id : null, board?.levers);
  if (error)
    return (
      <main className="sv-page">
        <h1>This board cannot be shown</h1>
        <p>{problemText(error)}</p>
        <Link to="/">All boards</Link>
      </main>
    );
  if (!board) return <p className="sv-loading">Opening ..</p>;
  return (
    <main className="sv-show">
      <title>{`${board.title} · Sorvik`}</title>
      <header className="sv-show-head">
        <h1>{board.title}</h1>
        {board.subtitle && <p>{board.subtitle}</p>}
      </header>
      <div className="sv-show-body">
        {board.levers.length > 0 && (
          <aside className="sv-levers" aria-label="Levers">
            {board.levers.map((lever) => (
              <LeverGroup key={lever.id} lever={lever} />
            ))}
          </aside>
        )}
        <div className="sv-charts" data-count={Math.min(4, board.charts.length)}>
          {board.charts.map((chart) => (
            <div className="sv-cell" key={chart.id}>
              <Guard what="This chart">
                <ChartFigure board={board} chart={chart} />
              </Guard>
            </div>
          ))}
        </div>
      </div>
    </main>
  );
}
