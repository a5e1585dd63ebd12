import { fsum, median, quantile } from 'd3-array';
import type { ReadingFigure } from '../board/figure';
import { settled } from './settled';

/** Figures of readings: of the chart's measure, or of another one. */
export interface Measured {
  value: Float64Array;
}

function of(figure: ReadingFigure, known: Float64Array): number {
  if (figure.of === 'mean') return fsum(known) / known.length;
  if (figure.of === 'median') return median(known)!;
  return quantile(known, (figure.percent ?? 50) / 100)!;
}

/**
 * A figure of the readings that have a value: their mean, median, or a percentile as SQL's `percentile_cont`, which
 * interpolates between the two nearest. NaN when none has a value.
 */
export function readingFigure(figure: ReadingFigure, { value }: Measured): number {
  const known = value.filter((each) => !Number.isNaN(each));
  return known.length ? settled(of(figure, known), known) : Number.NaN;
}
