import { mean, median, quantile } from 'd3-array';
import type { ReadingFigure } from '../board/figure';
import type { Measured } from './figures';

/**
 * A figure of the readings that have a value: their mean, median, or a percentile as SQL's `percentile_cont`, which
 * interpolates between the two nearest. NaN when none has a value.
 */
export function readingFigure(figure: ReadingFigure, { value }: Measured): number {
  const known = value.filter((each) => !Number.isNaN(each));
  if (figure.of === 'mean') return mean(known) ?? Number.NaN;
  if (figure.of === 'median') return median(known) ?? Number.NaN;
  return quantile(known, (figure.percent ?? 50) / 100) ?? Number.NaN;
}
