import type { Board } from '@sorvik/core/board/board';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { ChartFigure } from '../chart/ChartFigure';
import { FactsContext } from '../levers/facts-context';
import { useFacts } from '../levers/use-facts';
import { tell } from '../ui/tell';

const atStart: Positions = {};

/** A small live picture of a board with its levers at their start. */
export function BoardPicture({ board }: { board: Board }) {
  const known = useFacts(board.levers, board.charts);
  return (
    <FactsContext value={known}>
      <div
        className="sv-picture"
        data-part="picture"
        data-count={Math.min(4, board.charts.length)}
        aria-hidden="true"
      >
        {board.charts.slice(0, 4).map((chart) => (
          <ChartFigure key={chart.id} board={board} chart={chart} still={atStart} />
        ))}
        {!board.charts.length && <span className="sv-none">{tell('board.boardPicture.noChartsYet')}</span>}
      </div>
    </FactsContext>
  );
}
