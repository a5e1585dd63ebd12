import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { leversOf } from '@sorvik/core/edit/copy-chart';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { useDeferredValue, useMemo, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { leverMoved } from '../../board/positions-slice';
import { LeverGroup } from '../../levers/LeverGroup';
import { type OwnPositions, PositionsContext } from '../../levers/positions-context';
import { Problem } from '../../ui/Problem';
import { tell } from '../../ui/tell';
import { useWorkings } from './use-workings';
import { WorkingsTable } from './WorkingsTable';

/** Every step from the readings of the chart in hand to its lit marks, at the board's positions or at those of a trial. */
export function WorkingsPanel({ board, chart }: { board: Board; chart: Chart }) {
  const dispatch = useAppDispatch();
  // A drag goes before: the table follows when there is time.
  const now = useDeferredValue(useAppSelector((state) => state.positions.now));
  const [trial, setTrial] = useState<Positions | null>(null);
  const levers = leversOf(chart, board);
  const own = useMemo<OwnPositions | null>(
    () =>
      trial && {
        now: trial,
        move: (lever, position) => setTrial((before) => before && { ...before, [lever]: position }),
        reset: (lever) =>
          setTrial((before) => {
            const { [lever]: _gone, ...rest } = before ?? {};
            return rest;
          }),
      },
    [trial],
  );
  const base = useWorkings(board, chart, now);
  const tried = useWorkings(board, chart, trial);
  const adopt = () => {
    for (const { id } of levers)
      if (trial![id] !== now[id]) dispatch(leverMoved({ lever: id, position: trial![id] }));
    setTrial(null);
  };
  const problem = [base, tried].find((each) => typeof each === 'string');
  if (problem) return <Problem>{problem}</Problem>;
  if (!base || (trial && !tried) || typeof base === 'string' || typeof tried === 'string')
    return <p className="sv-loading">{tell('bench.workingsPanel.loading')}</p>;
  return (
    <div className="sv-workings-panel">
      {own && (
        <PositionsContext value={own}>
          <section className="sv-trial-levers" aria-label={tell('bench.workingsPanel.trialPositions')}>
            {levers.map((lever) => (
              <LeverGroup key={lever.id} lever={lever} />
            ))}
          </section>
        </PositionsContext>
      )}
      <WorkingsTable chart={chart.id} workings={base} trial={tried}>
        {trial ? (
          <span className="sv-workings-trial">
            <span className="sv-quiet">{tell('bench.workingsPanel.trialTheBoardDoesNot')}</span>
            <button type="button" className="btn btn-sm btn-outline-primary" onClick={adopt}>
              {tell('bench.workingsPanel.applyToTheBoard')}
            </button>
            <button type="button" className="btn btn-sm btn-quiet" onClick={() => setTrial(null)}>
              {tell('bench.workingsPanel.discard')}
            </button>
          </span>
        ) : (
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            disabled={!levers.length}
            onClick={() => setTrial(now)}
          >
            {tell('bench.workingsPanel.tryOtherLeverPositions')}
          </button>
        )}
      </WorkingsTable>
    </div>
  );
}
