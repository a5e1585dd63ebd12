import { IsIn, ValidateIf } from 'class-validator';
import { type Figure, figureLevers, IsFigure, isLeverFigure } from '../board/figure';
import type { LeverAbility } from '../levers/abilities';
import { shareText } from '../levers/figure-text';
import { figureWord, readingFigureText } from '../words/figure-word';
import { optionWord } from '../words/sentence';
import {
  type ConditionContext,
  type ConditionKind,
  type Evaluation,
  type ExplainWords,
  verdicts,
  type WorkingsColumn,
} from './condition-kind';
import { figureNow, readingRange, shareOfRange } from './figures';

export const comparisons = ['at or above', 'above', 'at or below', 'below', 'between'] as const;
export type Comparison = (typeof comparisons)[number];

/** Met by readings on one side of a limit, or between two: from the lower one on, up to below the upper one. */
export class ThresholdCondition {
  @IsIn(['threshold'])
  kind!: 'threshold';

  @IsIn(comparisons)
  is!: Comparison;

  @IsFigure()
  limit!: Figure;

  /** For `between`: the upper limit. */
  @ValidateIf((spec: ThresholdCondition) => spec.is === 'between')
  @IsFigure()
  upper?: Figure;
}

/** The same, with limits as shares of the range of the readings in view. */
export class PositionCondition {
  @IsIn(['position'])
  kind!: 'position';

  @IsIn(comparisons)
  is!: Comparison;

  @IsFigure()
  limit!: Figure;

  @ValidateIf((spec: PositionCondition) => spec.is === 'between')
  @IsFigure()
  upper?: Figure;
}

type LimitSpec = Omit<ThresholdCondition, 'kind'>;

/** The nearest number above or below another one. */
function neighbour(value: number, up: boolean): number {
  if (!Number.isFinite(value)) return value;
  if (value === 0) return up ? Number.MIN_VALUE : -Number.MIN_VALUE;
  const bits = new BigInt64Array(new Float64Array([value]).buffer);
  bits[0] = bits[0]! + (up === value > 0 ? 1n : -1n);
  return new Float64Array(bits.buffer)[0]!;
}

/** The values that meet a comparison as a stretch with both ends inside: one loop does for all of them. */
const stretches: Record<Comparison, (limit: number, upper: number) => [number, number]> = {
  'at or above': (limit) => [limit, Number.POSITIVE_INFINITY],
  above: (limit) => [neighbour(limit, true), Number.POSITIVE_INFINITY],
  'at or below': (limit) => [Number.NEGATIVE_INFINITY, limit],
  below: (limit) => [Number.NEGATIVE_INFINITY, neighbour(limit, false)],
  between: (limit, upper) => [limit, neighbour(upper, false)],
};
const nowhere = [Number.NaN, Number.NaN] as const;

/** Whether a value meets a comparison. A null (NaN) meets none, and none is met by an unknown limit. */
export function meets(is: Comparison, value: number, limit: number, upper = Number.NaN): boolean {
  const [from, to] = stretches[is](limit, upper);
  return value >= from && value <= to && !Number.isNaN(limit);
}

function compared(
  spec: LimitSpec,
  context: ConditionContext,
  place: (figure: number) => number,
): Omit<Evaluation, 'note'> {
  const { readings } = context;
  const verdict = new Uint8Array(readings.length);
  const held = figuresOf(spec).map((figure) => figureNow(figure, context));
  if (held.some(Number.isNaN)) return { active: false, verdict };
  const [limit = Number.NaN, upper = Number.NaN] = held.map(place);
  const [from, to] = Number.isNaN(limit) ? nowhere : stretches[spec.is](limit, upper);
  const { value } = readings;
  for (let i = 0; i < verdict.length; i++) {
    const each = value[i]!;
    // As numbers, without a branch that could be guessed wrong: 2 is yes, 1 unknown.
    const inside = (each >= from ? 2 : 0) & (each <= to ? 2 : 0);
    verdict[i] = inside | (Number.isNaN(each) ? 1 : 0);
  }
  if (Number.isNaN(limit)) verdict.fill(verdicts.unknown);
  return { active: true, verdict };
}

const comparisonTexts: Record<Comparison, string> = {
  'at or above': 'at or above',
  above: 'above',
  'at or below': 'at or below',
  below: 'below',
  between: 'from',
};

const figuresOf = (spec: LimitSpec): Figure[] => [
  spec.limit,
  ...(spec.is === 'between' && spec.upper !== undefined ? [spec.upper] : []),
];

const of = (figure: Figure) =>
  typeof figure === 'number' || isLeverFigure(figure) ? '' : ` (${readingFigureText(figure)})`;

/** "4.45 is at or above 4.30 (Late from)", or that it is not. */
function explainLimits(
  spec: LimitSpec,
  context: ConditionContext,
  index: number,
  words: ExplainWords,
  place: (figure: number) => number,
  read: (figure: number) => string,
): string {
  const value = context.readings.value[index]!;
  if (Number.isNaN(value)) return 'it has no value to compare';
  const limits = figuresOf(spec).map((figure) => {
    const lever = isLeverFigure(figure) ? ` (${words.lever(figure.lever)})` : of(figure);
    return `${read(figureNow(figure, context))}${lever}`;
  });
  const [limit = Number.NaN, upper = Number.NaN] = figuresOf(spec).map((figure) =>
    place(figureNow(figure, context)),
  );
  const is = meets(spec.is, value, limit, upper);
  const comparison = spec.is === 'between' ? 'between' : spec.is;
  return `${words.figure(value)} is ${is ? '' : 'not '}${comparison} ${limits.join(' and ')}`;
}

function limitColumns(
  spec: LimitSpec,
  context: ConditionContext,
  place: (figure: number) => number,
): WorkingsColumn[] {
  const names = spec.is === 'between' ? ['lower limit', 'upper limit'] : ['limit'];
  return figuresOf(spec).map((figure, i) => ({
    name: names[i]!,
    values: new Float64Array(context.readings.length).fill(place(figureNow(figure, context))),
  }));
}

function common<S extends LimitSpec>(
  ability: LeverAbility,
): Pick<ConditionKind<S>, 'levers' | 'needs' | 'filters' | 'rowFilter' | 'unfit' | 'parts' | 'without'> {
  const figures = (spec: S) => figureLevers(spec.limit, spec.is === 'between' ? spec.upper : undefined);
  return {
    levers: (spec) => [...new Set(figures(spec))],
    needs: (spec) => figures(spec).map((lever) => ({ lever, ability })),
    filters: () => null,
    rowFilter: () => null,
    unfit: () => null,
    parts: (spec, words) => [
      optionWord(
        'Comparison',
        ['is'],
        spec.is,
        comparisons.map((value) => ({
          value,
          text: value === spec.is ? comparisonTexts[value] : value,
          ...(value === 'between' ? { note: 'up to below a second limit' } : {}),
        })),
      ),
      ' ',
      figureWord('Limit', ['limit'], spec.limit, words, ability),
      ...(spec.is === 'between'
        ? [' up to below ', figureWord('Upper limit', ['upper'], spec.upper ?? spec.limit, words, ability)]
        : []),
      ...(ability === 'share' ? [' of the range in view'] : []),
    ],
    without(spec, lever, context) {
      const fixed = (figure: Figure | undefined) => {
        if (figure === undefined || !figureLevers(figure).includes(lever)) return figure;
        const now = figureNow(figure, context);
        return Number.isNaN(now) ? 0 : now;
      };
      const upper = fixed(spec.upper);
      return { ...spec, limit: fixed(spec.limit)!, ...(upper === undefined ? {} : { upper }) };
    },
  };
}

export const threshold: ConditionKind<ThresholdCondition> = {
  kind: 'threshold',
  Spec: ThresholdCondition,
  usual: { text: 'at or above a figure', make: () => ({ kind: 'threshold', is: 'at or above', limit: 0 }) },
  ...common<ThresholdCondition>('figure'),
  evaluate(spec, context) {
    const { active, verdict } = compared(spec, context, (figure) => figure);
    return { active, verdict };
  },
  explain: (spec, context, index, words) =>
    explainLimits(spec, context, index, words, (figure) => figure, words.figure),
  workings: (spec, context) => limitColumns(spec, context, (figure) => figure),
};

export const position: ConditionKind<PositionCondition> = {
  kind: 'position',
  Spec: PositionCondition,
  usual: {
    text: 'in the upper quarter of the range in view',
    make: () => ({ kind: 'position', is: 'at or above', limit: 0.75 }),
  },
  ...common<PositionCondition>('share'),
  evaluate(spec, context) {
    const { readings } = context;
    const { active, verdict } = compared(spec, context, (share) => shareOfRange(share, readings));
    const { min, max } = readingRange(readings);
    const flat = active && !(max > min);
    return {
      active,
      verdict,
      ...(flat
        ? {
            note: Number.isNaN(min)
              ? 'there is no reading with a value'
              : 'all readings are alike, so there is no range',
          }
        : {}),
    };
  },
  explain(spec, context, index, words) {
    const { min, max } = readingRange(context.readings);
    if (!(max > min)) return 'there is no range to take shares of';
    const place = (share: number) => shareOfRange(share, context.readings);
    const read = (share: number) => `${shareText(0.001, share)}, which is ${words.figure(place(share))}`;
    const range = `of the range ${words.figure(min)} to ${words.figure(max)}`;
    return `${explainLimits(spec, context, index, words, place, read)} ${range}`;
  },
  workings(spec, context) {
    const { readings } = context;
    const { min, max } = readingRange(readings);
    return [
      ...limitColumns(spec, context, (share) => shareOfRange(share, readings)),
      {
        name: 'share of range',
        values: readings.value.map((value) => (max > min ? (value - min) / (max - min) : Number.NaN)),
      },
    ];
  },
};
