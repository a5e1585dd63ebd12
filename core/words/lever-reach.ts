import type { Board } from '../board/board';
import { conditionKinds } from '../conditions/registry';
import { counted, listed } from './plural';

/** What a lever does to one chart. */
export interface Reach {
  chart: string;
  lights: boolean;
  filters: boolean;
  fed: boolean;
}

/** The charts a lever reaches or is fed by, with how. */
export function leverReach(board: Board, lever: string): Reach[] {
  return board.charts
    .map((chart) => {
      const cues = chart.cues.filter(
        (cue) => !cue.off && conditionKinds.get(cue.condition.kind).levers(cue.condition).includes(lever),
      );
      return {
        chart: chart.id,
        lights: cues.some((cue) => cue.effect === 'light'),
        filters: cues.some((cue) => cue.effect === 'filter'),
        fed: chart.touches.some((touch) => touch.lever === lever),
      };
    })
    .filter((reach) => reach.lights || reach.filters || reach.fed);
}

/** "lights 1 chart, filters 2 charts", or that it reaches nothing. */
export function reachText(board: Board, lever: string): string {
  const reaches = leverReach(board, lever);
  const lights = reaches.filter((reach) => reach.lights).length;
  const filters = reaches.filter((reach) => reach.filters).length;
  const parts = [
    lights ? `lights ${counted(lights, 'chart')}` : '',
    filters ? `filters ${counted(filters, 'chart')}` : '',
  ].filter(Boolean);
  return parts.length ? listed(parts) : 'reaches no chart yet';
}
