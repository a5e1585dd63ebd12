import { IsIn, IsNumber } from 'class-validator';
import { IsId } from '../board/id';
import { IsOptional } from '../board/validation';
import { type Bound, boundFigure, IsBound } from './bound';
import { FigureLever, type Outside } from './figure-lever';
import { leverFigureText } from './figure-text';
import type { LeverFacts, LeverKind } from './lever-kind';
import { decimalsOf, onStep } from './steps';

/** A number between two bounds. */
export class NumberLever extends FigureLever {
  @IsIn(['number'])
  kind!: 'number';

  /** Whose fields bounds may be taken from. */
  @IsOptional()
  @IsId()
  dataset?: string;

  @IsBound()
  min!: Bound;

  @IsBound()
  max!: Bound;

  @IsNumber({ allowNaN: false, allowInfinity: false })
  start!: number;
}

/** The bounds as figures. A bound the data does not give is left open to the start; bounds never cross. */
export function numberBounds(spec: NumberLever, facts: LeverFacts | undefined) {
  const low = boundFigure(spec.min, facts);
  const high = boundFigure(spec.max, facts);
  const min = Number.isNaN(low) ? Math.min(0, spec.start) : low;
  const max = Number.isNaN(high) ? Math.max(min, spec.start) : high;
  return { min, max: Math.max(min, max), step: spec.step };
}

/** Fits a figure to bounds and steps, and says in words what that changed. */
export function settleFigure(
  figure: number,
  bounds: { min: number; max: number; step: number },
  start: number,
  outside: Outside,
  text: (figure: number) => string,
): { position: number; notice?: string } {
  const { min, max } = bounds;
  if (Number.isNaN(figure)) return { position: onStep(start, bounds) };
  if (figure < min || figure > max) {
    const position = onStep(outside === 'start' && start >= min && start <= max ? start : figure, bounds);
    const side = figure < min ? `below ${text(min)}, the least` : `above ${text(max)}, the most`;
    return { position, notice: `${text(figure)} is ${side}: ${text(position)} instead.` };
  }
  const position = onStep(figure, bounds);
  return Math.abs(position - figure) < 1e-9 * Math.max(1, Math.abs(figure))
    ? { position }
    : { position, notice: `${figure} is between two steps: ${text(position)} instead.` };
}

export const number: LeverKind<NumberLever, number> = {
  kind: 'number',
  Spec: NumberLever,
  noun: 'a number',
  clearings: ['start', 'keep'],
  make: ({ id, name }) => ({
    kind: 'number',
    id,
    name,
    min: 0,
    max: 10,
    step: 1,
    start: 3,
    outside: 'nearest',
    clearing: 'start',
  }),
  start: (spec) => spec.start,
  startAt: (_spec, position) => ({ start: position }),
  isEmpty: (position) => Number.isNaN(position),
  same: (a, b) => a === b,
  clear: (spec, position) => (spec.clearing === 'keep' ? position : spec.start),
  toQuery: (position) => [String(position)],
  fromQuery(_spec, [text = '']) {
    const figure = text.trim() === '' ? Number.NaN : Number(text);
    return Number.isFinite(figure) ? figure : undefined;
  },
  settle(spec, position, facts) {
    // A bound of the data is not known yet: nothing can be said against the position.
    if (!facts && (typeof spec.min === 'object' || typeof spec.max === 'object')) return { position };
    const bounds = numberBounds(spec, facts);
    return settleFigure(position, bounds, spec.start, spec.outside, (figure) => {
      const decimals = Math.max(spec.decimals ?? decimalsOf(spec.step), Math.min(6, decimalsOf(figure)));
      return leverFigureText({ ...spec, decimals }, figure);
    });
  },
  summary: leverFigureText,
  side: (position) => (position < 0 ? -1 : 1),
  figures: {
    parts: ['value'],
    read: (position) => position,
    isShare: () => false,
    bounds: numberBounds,
    move: (spec, _position, _part, figure, facts) => onStep(figure, numberBounds(spec, facts)),
    text: leverFigureText,
  },
  touch: {
    takes: 'figure',
    fits: () => true,
    put: (spec, position, { figure }, _use, facts) =>
      Number.isNaN(figure) ? position : onStep(figure, numberBounds(spec, facts)),
  },
};
