import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import { tell } from '../messages/desk';
import { english } from '../messages/locale';
import { leverUses, type UseWord } from '../pipeline/lever-uses';
import { listed } from '../words/plural';

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

/** What a lever does to charts, in the order in which it is told. */
const told: readonly Exclude<UseWord, 'fed'>[] = [
  'lights',
  'filters',
  'keeps',
  'places',
  'feeds',
  'compares',
  'windows',
  'switches',
  'titles',
];

/** "lights 1 chart and filters 2 charts", or that it reaches nothing. */
export function reachText(board: Board, lever: string): string {
  const reaches = leverReach(board, lever);
  const parts = told.flatMap((word) => {
    const many = reaches.filter(({ does }) => does.includes(word)).length;
    return many ? [tell('reach', { use: word, n: many })] : [];
  });
  return parts.length ? listed(parts, english) : tell('reach.none');
}
