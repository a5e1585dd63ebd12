import { IsIn, ValidateIf } from 'class-validator';
import { type Figure, figureLevers, IsFigure } from '../board/figure';
import type { LeverAbility } from '../levers/abilities';
import { figureWord } from '../words/figure-word';
import { optionWord } from '../words/sentence';
import type { ConditionContext, ConditionKind, Evaluation } from './condition-kind';
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

/** Whether a value meets a comparison. A null (NaN) meets none, and none is met by an unknown limit. */
export const meets: Record<Comparison, (value: number, limit: number, upper: number) => boolean> = {
  'at or above': (value, limit) => value >= limit,
  above: (value, limit) => value > limit,
  'at or below': (value, limit) => value <= limit,
  below: (value, limit) => value < limit,
  between: (value, limit, upper) => value >= limit && value < upper,
};

function compared(
  spec: LimitSpec,
  context: ConditionContext,
  place: (figure: number) => number,
): Omit<Evaluation, 'note'> & { limit: number } {
  const { readings } = context;
  const lit = new Uint8Array(readings.length);
  const figures = [spec.limit, ...(spec.is === 'between' && spec.upper !== undefined ? [spec.upper] : [])];
  const held = figures.map((figure) => figureNow(figure, context));
  if (held.some(Number.isNaN)) return { active: false, lit, limit: Number.NaN };
  const [limit = Number.NaN, upper = Number.NaN] = held.map(place);
  const test = meets[spec.is];
  for (let i = 0; i < readings.length; i++) if (test(readings.value[i]!, limit, upper)) lit[i] = 1;
  return { active: true, lit, limit };
}

const comparisonTexts: Record<Comparison, string> = {
  'at or above': 'at or above',
  above: 'above',
  'at or below': 'at or below',
  below: 'below',
  between: 'from',
};

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
        ['condition', 'is'],
        spec.is,
        comparisons.map((value) => ({
          value,
          text: value === spec.is ? comparisonTexts[value] : value,
          ...(value === 'between' ? { note: 'up to below a second limit' } : {}),
        })),
      ),
      ' ',
      figureWord('Limit', ['condition', 'limit'], spec.limit, words, ability),
      ...(spec.is === 'between'
        ? [
            ' up to below ',
            figureWord('Upper limit', ['condition', 'upper'], spec.upper ?? spec.limit, words, ability),
          ]
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
  ...common<ThresholdCondition>('figure'),
  evaluate(spec, context) {
    const { active, lit } = compared(spec, context, (figure) => figure);
    return { active, lit };
  },
};

export const position: ConditionKind<PositionCondition> = {
  kind: 'position',
  Spec: PositionCondition,
  ...common<PositionCondition>('share'),
  evaluate(spec, context) {
    const { readings } = context;
    const { active, lit } = compared(spec, context, (share) => shareOfRange(share, readings));
    const { min, max } = readingRange(readings);
    const flat = active && !(max > min);
    return {
      active,
      lit,
      ...(flat
        ? {
            note: Number.isNaN(min)
              ? 'there is no reading with a value'
              : 'all readings are alike, so there is no range',
          }
        : {}),
    };
  },
};
