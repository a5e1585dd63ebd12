import { IsIn, IsNumber } from 'class-validator';
import { IsId } from '../board/id';
import { IsOptional } from '../board/validation';
import { tell } from '../messages/desk';
import type { Locale } from '../messages/locale';
import { type Saying, say } from '../messages/say';
import { type Bound, boundFigure, IsBound } from './bound';
import { FigureLever, type Outside } from './figure-lever';
import { leverFigureText } from './figure-text';
import type { LeverFacts, LeverKind } from './lever-kind';
import { onStep } from './steps';

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

/**
 * Fits a figure to bounds, and says in words what that changed. Between them it stays as it was typed, or given in an
 * address: steps are for sliding.
 */
export function settleFigure(
  figure: number,
  { min, max }: { min: number; max: number },
  start: number,
  outside: Outside,
  text: (figure: number, locale: Locale) => string,
): { position: number; notice?: Saying } {
  // Minus zero is zero: an address does not tell them apart.
  const within = (each: number) => Math.max(min, Math.min(max, each)) + 0;
  if (Number.isNaN(figure)) return { position: within(start) };
  if (figure >= min && figure <= max) return { position: figure + 0 };
  const position = within(outside === 'start' && start >= min && start <= max ? start : figure);
  const below = figure < min;
  return {
    position,
    notice: (locale) =>
      say(locale, 'notice.beyond', {
        figure: text(figure, locale),
        side: below ? 'below' : 'above',
        bound: text(below ? min : max, locale),
        to: text(position, locale),
      }),
  };
}

export const number: LeverKind<NumberLever, number> = {
  kind: 'number',
  Spec: NumberLever,
  get noun() {
    return tell('lever.number.noun');
  },
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
    return settleFigure(position, bounds, spec.start, spec.outside, (figure, locale) =>
      leverFigureText(spec, figure, locale),
    );
  },
  summary: (spec, position, _facts, locale) => leverFigureText(spec, position, locale),
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
      // The figure of the mark itself: on the nearest step it could lie on the other side of it.
      Number.isNaN(figure)
        ? position
        : settleFigure(figure, numberBounds(spec, facts), spec.start, 'nearest', String).position,
  },
};
