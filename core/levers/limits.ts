import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { IsIn, IsNumber } from 'class-validator';
import { Part } from '../board/part';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { FigureLever } from './figure-lever';
import { leverFigureText, shareText } from './figure-text';
import type { LeverKind } from './lever-kind';
import { settleFigure } from './number';
import { onStep } from './steps';

const finite = { allowNaN: false, allowInfinity: false };
export const meetings = ['push', 'stop'] as const;

/** A low and a high; low is never above high. */
export class LimitsPosition {
  @IsNumber(finite)
  low!: number;

  @IsNumber(finite)
  high!: number;
}

export class LimitsLever extends FigureLever {
  @IsIn(['limits'])
  kind!: 'limits';

  /** Values of a measure, or shares (0 to 1) of whatever range a chart has. */
  @IsIn(['value', 'share'])
  as!: 'value' | 'share';

  @IsNumber(finite)
  min!: number;

  @IsNumber(finite)
  max!: number;

  @Part(() => LimitsPosition)
  start!: LimitsPosition;

  /** Where one limit meets the other it pushes it along, or stops. */
  @IsIn(meetings)
  meeting!: (typeof meetings)[number];
}

const boundsOf = (spec: LimitsLever) => ({
  min: Math.min(spec.min, spec.max),
  max: Math.max(spec.min, spec.max),
  step: spec.step,
});
const text = (spec: LimitsLever, figure: number, locale: Locale) =>
  spec.as === 'share' ? shareText(spec.step, figure, locale) : leverFigureText(spec, figure, locale);
const ordered = ({ low, high }: LimitsPosition): LimitsPosition =>
  low <= high ? { low: low + 0, high: high + 0 } : { low: high + 0, high: low + 0 };

/** Moves one limit; where it meets the other it pushes it along or stops, as the lever says. */
export function moveLimit(
  spec: LimitsLever,
  position: LimitsPosition,
  part: 'low' | 'high',
  figure: number,
): LimitsPosition {
  return withLimit(spec, position, part, onStep(figure, boundsOf(spec)));
}

/** The limits with one of them at a figure: past the other one it pushes that along, or stops there. */
export function withLimit(
  spec: LimitsLever,
  position: LimitsPosition,
  part: 'low' | 'high',
  figure: number,
): LimitsPosition {
  const { low, high } = position;
  const to = figure + 0;
  if (part === 'low') {
    if (to <= high) return { low: to, high };
    return spec.meeting === 'push' ? { low: to, high: to } : { low: high, high };
  }
  if (to >= low) return { low, high: to };
  return spec.meeting === 'push' ? { low: to, high: to } : { low, high: low };
}

export const limits: LeverKind<LimitsLever, LimitsPosition> = {
  kind: 'limits',
  Spec: LimitsLever,
  get noun() {
    return tell('lever.limits.noun');
  },
  clearings: ['start', 'keep'],
  make: ({ id, name }) => ({
    kind: 'limits',
    id,
    name,
    as: 'share',
    min: 0,
    max: 1,
    step: 0.01,
    start: { low: 0.25, high: 0.75 },
    meeting: 'push',
    outside: 'nearest',
    clearing: 'start',
  }),
  start: (spec) => ordered(spec.start),
  startAt: (_spec, { low, high }) => ({ start: { low, high } }),
  isEmpty: () => false,
  same: (a, b) => a.low === b.low && a.high === b.high,
  clear: (spec, position) => (spec.clearing === 'keep' ? position : ordered(spec.start)),
  toQuery: ({ low, high }) => [`${low}..${high}`],
  fromQuery(_spec, [pair = '']) {
    const ends = pair.split('..').map((end) => (end.trim() === '' ? Number.NaN : Number(end)));
    const [low = Number.NaN, high = Number.NaN] = ends;
    return ends.length === 2 && Number.isFinite(low) && Number.isFinite(high)
      ? ordered({ low, high })
      : undefined;
  },
  settle(spec, position) {
    const start = ordered(spec.start);
    const settle = (part: 'low' | 'high') =>
      settleFigure(position[part], boundsOf(spec), start[part], spec.outside, (figure, locale) =>
        text(spec, figure, locale),
      );
    const low = settle('low');
    const high = settle('high');
    const notices = [low.notice, high.notice].filter((notice) => notice !== undefined);
    const settled = ordered({ low: low.position, high: high.position });
    const kept = Object.is(settled.low, position.low) && Object.is(settled.high, position.high);
    return {
      position: kept ? position : settled,
      ...(notices.length
        ? { notice: (locale: Locale) => notices.map((notice) => notice(locale)).join(' ') }
        : {}),
    };
  },
  summary: (spec, { low, high }, _facts, locale) =>
    say(locale, 'range', { from: text(spec, low, locale), to: text(spec, high, locale) }),
  figures: {
    parts: ['low', 'high'],
    read: (position, part) => (part === 'low' ? position.low : position.high),
    isShare: (spec) => spec.as === 'share',
    bounds: boundsOf,
    move: (spec, position, part, figure) =>
      moveLimit(spec, position, part === 'low' ? 'low' : 'high', figure),
    text,
  },
};
