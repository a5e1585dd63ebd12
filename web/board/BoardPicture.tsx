import type { Board } from '@sorvik/core/board/board';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { ChartFigure } from '../chart/ChartFigure';

const atStart: Positions = {};

/** A small live picture of a board with its levers at their start. */
export function BoardPicture({ board }: { board: Board }) {
  return (
    <div className="sv-picture" data-count={Math.min(4, board.charts.length)} aria-hidden="true">
      {board.charts.slice(0, 4).map((chart) => (
        <ChartFigure key={chart.id} board={board} chart={chart} still={atStart} />
      ))}
      {!board.charts.length && <span className="sv-none">no charts yet</span>}
    </div>
  );
}
