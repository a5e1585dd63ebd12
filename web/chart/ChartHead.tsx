import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { lazy, Suspense } from 'react';
import { useLanguage } from '../ui/language';
import { Problem } from '../ui/Problem';
import type { ChartMenuProps } from './ChartMenu';
import { ChartTitle } from './ChartTitle';

/** Fetched when the chart stands: nothing of it is needed to see one. */
const ChartMenu = lazy(() => import('./ChartMenu').then((module) => ({ default: module.ChartMenu })));

interface Props {
  id: string;
  board: Board;
  chart: Chart;
  words: Vocabulary;
  /** What can be done with the chart as a whole, once it stands. */
  menu: ChartMenuProps | null;
  /** Why it cannot be shown. */
  problem: string | undefined;
  loading: boolean;
}

/** What stands above a plot: the title, what can be done with the chart, and why there is nothing to see. */
export function ChartHead({ id, board, chart, words, menu, problem, loading }: Props) {
  const { say } = useLanguage();
  return (
    <div className="sv-chart-head">
      {menu && (
        <Suspense fallback={null}>
          <ChartMenu {...menu} />
        </Suspense>
      )}
      <h2 className="sv-chart-title" data-part="chart-title" id={id} dir="auto">
        <ChartTitle board={board} chart={chart} words={words} />
      </h2>
      {problem && <Problem role="alert">{problem}</Problem>}
      {loading && !problem && <p className="sv-loading">{say('loading')}</p>}
    </div>
  );
}
