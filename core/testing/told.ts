import type { ChartResult } from '../pipeline/stage';
import { chartCaption, chartLegend, chartSubtitle, markReason } from '../text/chart-words';
import type { LegendEntry } from '../text/legend';

/** A result with all that is said of it. */
export interface Told extends ChartResult {
  legend(): LegendEntry[];
  subtitle(): string;
  caption(): string;
  why(mark: number): string;
}

/** What a chart comes to, and what is said of it, in one hand. */
export const told = (result: ChartResult): Told => ({
  ...result,
  legend: () => chartLegend(result),
  subtitle: () => chartSubtitle(result),
  caption: () => chartCaption(result),
  why: (mark) => markReason(result, mark),
});
