import { type Figure, isFormulaFigure, isLeverFigure } from '../board/figure';
import type { LeverContext } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import { formulaFigure } from './figure-formula';
import { type Measured, readingFigure } from './reading-figure';
import { settled } from './settled';

const ranges = new WeakMap<Float64Array, { min: number; max: number }>();

/** The lowest and the highest reading that has a value; NaN where none has. */
export function readingRange(readings: Measured): { min: number; max: number } {
  const known = ranges.get(readings.value);
  if (known) return known;
  let min = Number.NaN;
  let max = Number.NaN;
  for (const value of readings.value) {
    if (Number.isNaN(value)) continue;
    if (!(value >= min)) min = value;
    if (!(value <= max)) max = value;
  }
  const range = { min, max };
  ranges.set(readings.value, range);
  return range;
}

/** A figure as it is now: written, of the readings, what the lever holds, or a formula gives. NaN while there is none. */
export function figureNow(
  figure: Figure,
  { readings, ...context }: LeverContext & { readings?: Measured },
): number {
  if (typeof figure === 'number') return figure;
  if (isFormulaFigure(figure))
    return readings ? formulaFigure(figure.text, readings.value, context) : Number.NaN;
  if (!isLeverFigure(figure)) return readings ? readingFigure(figure, readings) : Number.NaN;
  const source = context.lever(figure.lever);
  const { figures } = source ? kindOf(source) : {};
  const position = context.positionOf(figure.lever);
  if (!figures || position === undefined) return Number.NaN;
  return figures.read(position, figure.part ?? figures.parts[0]!);
}

/** Whether a figure is a share of a range by its lever's word. */
export function isShareFigure(figure: Figure, lever: LeverContext['lever']): boolean {
  if (!isLeverFigure(figure)) return false;
  const source = lever(figure.lever);
  return source !== undefined && kindOf(source).figures?.isShare(source) === true;
}

/**
 * Where a share p of the range of the readings in view lies: min + p * (max - min). NaN when there is no range: no
 * readings, or all alike.
 */
export function shareOfRange(share: number, readings: Measured): number {
  const { min, max } = readingRange(readings);
  return max > min ? settled(min + share * (max - min), readings.value) : Number.NaN;
}
