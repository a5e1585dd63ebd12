import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import { leverUses, type UseWord } from '../pipeline/lever-uses';
import { english } from '../words/locale';
import { counted, listed } from '../words/plural';

/** What a lever does to one chart, and whether the chart feeds it. */
export interface Reach {
  chart: string;
  does: UseWord[];
}

/** The charts a lever reaches or is fed by, with how. */
export function leverReach(board: Board, lever: string): Reach[] {
  return board.charts
    .map((chart: Chart) => ({
      chart: chart.id,
      does: [
        ...new Set(
          leverUses(chart)
            .filter((use) => use.lever === lever && !use.off)
            .map((use) => use.how),
        ),
      ],
    }))
    .filter((reach) => reach.does.length > 0);
}

const useTexts: Record<Exclude<UseWord, 'fed'>, (n: number) => string> = {
  lights: (n) => `lights ${counted(n, 'chart', english)}`,
  filters: (n) => `filters ${counted(n, 'chart', english)}`,
  keeps: (n) => `limits what ${counted(n, 'chart', english)} ${n === 1 ? 'shows' : 'show'}`,
  places: (n) => `places guides on ${counted(n, 'chart', english)}`,
  feeds: (n) => `is used in formulas of ${counted(n, 'chart', english)}`,
  compares: (n) => `sets the reference of ${counted(n, 'chart', english)}`,
  windows: (n) => `sets the visible part of ${counted(n, 'chart', english)}`,
  switches: (n) => `turns sentences on or off on ${counted(n, 'chart', english)}`,
  titles: (n) => `is shown in the title of ${counted(n, 'chart', english)}`,
};

/** "lights 1 chart and filters 2 charts", or that it reaches nothing. */
export function reachText(board: Board, lever: string): string {
  const reaches = leverReach(board, lever);
  const parts = (Object.keys(useTexts) as (keyof typeof useTexts)[]).flatMap((word) => {
    const many = reaches.filter(({ does }) => does.includes(word)).length;
    return many ? [useTexts[word](many)] : [];
  });
  return parts.length ? listed(parts, english) : 'is not used by any chart yet';
}
