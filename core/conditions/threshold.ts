import { IsOptional, RequiredWhen } from '../board/validation';
import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { IsIn } from 'class-validator';
import {
  type Figure,
  figureLevers,
  figureNeeds,
  IsFigure,
  isFormulaFigure,
  isLeverFigure,
  isSetFigure,
} from '../board/figure';
import type { LeverAbility } from '../board/lever-ability';
import { Measure, measureKey } from '../board/measure';
import { Part } from '../board/part';
import { shareText } from '../levers/figure-text';
import { figureText, figureWord, readingFigureText } from '../levers/figure-word';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { measureText, measureWord } from '../words/measure-text';
import { numberText } from '../words/number-text';
import { listed } from '../words/plural';
import { optionWord, sentenceParts } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import {
  type Claim,
  type ClaimWords,
  type ConditionContext,
  type ConditionKind,
  type Evaluation,
  type LegendContext,
  measureOf,
  saysMeasure,
  verdicts,
  type WorkingsColumn,
} from './condition-kind';
import { figureNow, readingRange, shareOfRange } from './figures';
import { figuresProblem } from './figures-problem';
import { measuredBy } from './measured';
import type { Measured } from './reading-figure';

export const comparisons = ['at or above', 'above', 'at or below', 'below', 'between', 'outside'] as const;
export type Comparison = (typeof comparisons)[number];

/** The comparisons that have a second limit. */
const twoLimits: readonly Comparison[] = ['between', 'outside'];
const hasTwo = (is: Comparison) => twoLimits.includes(is);

/** A comparison with one limit or two. */
class LimitSpec {
  @IsIn(comparisons)
  is!: Comparison;

  @IsFigure()
  limit!: Figure;

  /** For `between` and `outside`: the upper limit. */
  @RequiredWhen('is', twoLimits)
  @IsFigure()
  upper?: Figure;

  /** What is compared; the chart's own measure where it is left out. */
  @IsOptional()
  @Part(() => Measure)
  measure?: Measure;
}

/**
 * Met by readings on one side of a limit; between two, from the lower one on, up to below the upper one; or outside of
 * them, which is below the lower one, and at or above the upper one.
 */
export class ThresholdCondition extends LimitSpec {
  @IsIn(['threshold'])
  kind!: 'threshold';
}

/** The same, with limits as shares of the range of the readings in view. */
export class PositionCondition extends LimitSpec {
  @IsIn(['position'])
  kind!: 'position';
}

/** The nearest number above or below another one. */
function neighbour(value: number, up: boolean): number {
  if (!Number.isFinite(value)) return value;
  if (value === 0) return up ? Number.MIN_VALUE : -Number.MIN_VALUE;
  const bits = new BigInt64Array(new Float64Array([value]).buffer);
  bits[0] = bits[0]! + (up === value > 0 ? 1n : -1n);
  return new Float64Array(bits.buffer)[0]!;
}

/**
 * The values that meet a comparison as a stretch with both ends inside: one loop does for all of them. For `outside` it
 * is the stretch that does not meet it.
 */
const stretches: Record<Comparison, (limit: number, upper: number) => [number, number]> = {
  'at or above': (limit) => [limit, Number.POSITIVE_INFINITY],
  above: (limit) => [neighbour(limit, true), Number.POSITIVE_INFINITY],
  'at or below': (limit) => [Number.NEGATIVE_INFINITY, limit],
  below: (limit) => [Number.NEGATIVE_INFINITY, neighbour(limit, false)],
  between: (limit, upper) => [limit, neighbour(upper, false)],
  outside: (limit, upper) => [limit, neighbour(upper, false)],
};

/** Whether a value meets a comparison. A null (NaN) meets none, and none is met by an unknown limit. */
export function meets(is: Comparison, value: number, limit: number, upper = Number.NaN): boolean {
  if (Number.isNaN(value) || Number.isNaN(limit)) return false;
  const [from, to] = stretches[is](limit, upper);
  return (value >= from && value <= to) !== (is === 'outside');
}

function compared(
  spec: LimitSpec,
  context: ConditionContext,
  place: (figure: number, measured: Measured) => number,
): Omit<Evaluation, 'note'> {
  const measured = measuredBy(spec.measure, context.readings);
  const verdict = new Uint8Array(context.readings.length);
  const held = figuresOf(spec).map((figure) => figureNow(figure, { ...context, readings: measured }));
  if (held.some(Number.isNaN)) return { active: false, verdict };
  const [limit = Number.NaN, upper = Number.NaN] = held.map((figure) => place(figure, measured));
  if (Number.isNaN(limit)) return { active: true, verdict: verdict.fill(verdicts.unknown) };
  const [from, to] = stretches[spec.is](limit, upper);
  const { value } = measured;
  if (spec.is === 'outside') {
    const variant = new Uint8Array(verdict.length);
    for (let i = 0; i < verdict.length; i++) {
      const each = value[i]!;
      verdict[i] =
        each < from || each > to ? verdicts.yes : Number.isNaN(each) ? verdicts.unknown : verdicts.no;
      variant[i] = each > to ? 1 : 0;
    }
    return { active: true, verdict, variant };
  }
  for (let i = 0; i < verdict.length; i++) {
    const each = value[i]!;
    // As numbers, without a branch that could be guessed wrong: 2 is yes, 1 unknown.
    const inside = (each >= from ? 2 : 0) & (each <= to ? 2 : 0);
    verdict[i] = inside | (Number.isNaN(each) ? 1 : 0);
  }
  return { active: true, verdict };
}

const sides: Comparison[] = ['below', 'at or above'];

const figuresOf = (spec: LimitSpec): Figure[] => [
  spec.limit,
  ...(hasTwo(spec.is) && spec.upper !== undefined ? [spec.upper] : []),
];

/** A limit as it is now, and what it is taken from. */
interface Limit {
  figure: Figure;
  value: number;
  /** For a share of the range: the share. */
  share?: number;
}

interface LimitClaim extends Claim {
  measure: Measure;
  /** Whether the sentence has to name the measure. */
  named: boolean;
  is: Comparison;
  value: number;
  limits: Limit[];
  /** The range that shares are taken of. */
  range?: { min: number; max: number };
}

function limitClaim(
  spec: LimitSpec & { kind: string },
  context: ConditionContext,
  index: number,
  share: boolean,
): LimitClaim {
  const measured = measuredBy(spec.measure, context.readings);
  const value = measured.value[index]!;
  const limits = figuresOf(spec).map((figure): Limit => {
    const now = figureNow(figure, { ...context, readings: measured });
    return share ? { figure, share: now, value: shareOfRange(now, measured) } : { figure, value: now };
  });
  const [limit, upper] = limits;
  const known = !Number.isNaN(value) && limits.every((each) => !Number.isNaN(each.value));
  return {
    says: spec.kind,
    verdict: !known
      ? verdicts.unknown
      : meets(spec.is, value, limit!.value, upper?.value)
        ? verdicts.yes
        : verdicts.no,
    measure: measureOf(spec.measure, context),
    named: saysMeasure(spec.measure, context),
    is: spec.is,
    value,
    limits,
    ...(share ? { range: readingRange(measured) } : {}),
  };
}

/** What of a comparison with two limits holds, or does not, by itself: [limit, comparison, whether it holds]. */
function sidesOf(
  is: Comparison,
  met: boolean,
  value: number,
  limits: readonly Limit[],
): [number, Comparison, boolean][] {
  const [lower] = limits;
  if (!hasTwo(is)) return [[0, is, met]];
  const inside = value >= lower!.value;
  if (is === 'between')
    return met
      ? [
          [0, 'at or above', true],
          [1, 'below', true],
        ]
      : inside
        ? [[1, 'below', false]]
        : [[0, 'at or above', false]];
  if (met) return inside ? [[1, 'at or above', true]] : [[0, 'below', true]];
  return [
    [0, 'below', false],
    [1, 'at or above', false],
  ];
}

/** What a limit is taken from, behind it. */
function sourceText({ figure, share }: Limit, range: string, words: ClaimWords): string {
  const named =
    typeof figure === 'number'
      ? []
      : isLeverFigure(figure)
        ? [words.lever(figure.lever)]
        : [isFormulaFigure(figure) ? figure.text : readingFigureText(figure, words.locale)];
  const source = [
    ...named,
    ...(share === undefined
      ? []
      : [say(words.locale, 'claim.shareOfRange', { share: shareText(0.001, share, words.locale), range })]),
  ];
  return source.length ? ` (${source.join(', ')})` : '';
}

/** "4.45 is at or above 4.30 (Late from)", or that it is not. */
function limitClaimText(
  { measure, named, is, value, limits, range, verdict }: LimitClaim,
  words: ClaimWords,
) {
  const { locale } = words;
  if (Number.isNaN(value)) return say(locale, 'claim.noValue');
  if (verdict === verdicts.unknown) return say(locale, range ? 'claim.noRange' : 'claim.noLimit');
  const all = [value, ...limits.map((limit) => limit.value), ...(range ? [range.min, range.max] : [])];
  const [own, ...texts] = words.figures(measure, all);
  const rangeText = range ? say(locale, 'range', { from: texts.at(-2)!, to: texts.at(-1)! }) : '';
  const said = sidesOf(is, verdict === verdicts.yes, value, limits).map(([at, comparison, holds]) => {
    const limit = `${texts[at]}${sourceText(limits[at]!, rangeText, words)}`;
    return say(locale, 'claim.side', { is: comparisonIds[comparison], holds: holds ? 'yes' : 'no', limit });
  });
  return say(locale, 'claim.limit', {
    named: named ? 'yes' : 'no',
    measure: named ? words.measure(measure) : '',
    value: own!,
    said: listed(said, locale),
  });
}

function limitColumns(
  spec: LimitSpec,
  context: ConditionContext,
  place: (figure: number, measured: Measured) => number,
): WorkingsColumn[] {
  const names = hasTwo(spec.is) ? [tell('limit.lower'), tell('limit.higher')] : [tell('limit.only')];
  const measured = measuredBy(spec.measure, context.readings);
  const now = (figure: Figure) => place(figureNow(figure, { ...context, readings: measured }), measured);
  return [
    ...(spec.measure ? [{ name: measureKey(spec.measure), values: measured.value }] : []),
    ...figuresOf(spec).map((figure, i) => ({
      name: names[i]!,
      values: new Float64Array(context.readings.length).fill(now(figure)),
    })),
  ];
}

/** What a comparison is called in messages. */
const comparisonIds: Record<Comparison, string> = {
  'at or above': 'atLeast',
  above: 'above',
  'at or below': 'atMost',
  below: 'below',
  between: 'between',
  outside: 'outside',
};

/** "at or above 4.30", for a legend. */
const legendText = (spec: LimitSpec, context: LegendContext, words: Vocabulary, share: boolean) => {
  const texts = figuresOf(spec).map((figure) => {
    const now = figureNow(figure, context);
    if (Number.isNaN(now)) return figureText(figure, words, share);
    if (share) return shareText(Math.round(now * 1000) % 10 ? 0.001 : 0.01, now, words.locale);
    return context.figure?.(now, spec.measure, isSetFigure(figure)) ?? numberText(now, words.locale);
  });
  const named = saysMeasure(spec.measure, context.chart);
  const said = (is: string, at: number) =>
    say(words.locale, 'legend.limit', {
      named: named ? 'yes' : 'no',
      measure: named ? measureText(measureOf(spec.measure, context.chart ?? {}), words) : '',
      is,
      limit: texts[at]!,
      upper: texts[1] ?? '',
      share: share ? 'yes' : 'no',
    });
  if (spec.is === 'outside') return sides.map((side, i) => said(comparisonIds[side], i));
  return [said(comparisonIds[spec.is], 0)];
};

function common<S extends LimitSpec>(
  ability: LeverAbility,
): Omit<ConditionKind<S>, 'kind' | 'Spec' | 'usual' | 'evaluate' | 'claim' | 'claimText' | 'workings'> {
  const figures = (spec: S) => figureLevers(spec.limit, hasTwo(spec.is) ? spec.upper : undefined);
  return {
    keepsCategories: true,
    levers: (spec) => [...new Set(figures(spec))],
    needs: (spec) => figureNeeds(ability, ...figuresOf(spec)),
    filters: () => null,
    rowFilter: () => null,
    unfit: (spec, _keys, lever, words) => figuresProblem(figuresOf(spec), lever, words),
    withMeasure: (spec, measure) => ({ ...spec, measure: spec.measure ?? measure }),
    measures: ({ measure }) => (measure ? [measure] : []),
    variants: ({ is }) => (is === 'outside' ? sides : []),
    more: (spec, { measure, ...chart }) =>
      saysMeasure(spec.measure, chart) ? [] : [{ text: tell('limit.ofOther'), spec: { ...spec, measure } }],
    legend: (spec, context, words) => legendText(spec, context, words, ability === 'share'),
    parts: (spec, words, chart) =>
      sentenceParts('limit', {
        of: saysMeasure(spec.measure, chart) ? 'yes' : 'no',
        measure: measureWord(spec.measure, words, chart),
        comparison: optionWord(
          tell('limit.label'),
          ['is'],
          spec.is,
          comparisons.map((value) => ({
            value,
            text: tell('comparison', {
              is: comparisonIds[value],
              chosen: value === spec.is ? 'yes' : 'no',
            }),
            ...(hasTwo(value) ? { note: tell('comparison.note', { is: value }) } : {}),
          })),
        ),
        limit: figureWord(tell('limit.limit'), ['limit'], spec.limit, words, ability),
        ends: hasTwo(spec.is) ? spec.is : 'one',
        upper: figureWord(tell('limit.upper'), ['upper'], spec.upper ?? spec.limit, words, ability),
        share: ability === 'share' ? 'yes' : 'no',
      }),
    without(spec, lever, context) {
      const fixed = (figure: Figure | undefined) => {
        if (!isLeverFigure(figure) || figure.lever !== lever) return figure;
        const now = figureNow(figure, context);
        return Number.isNaN(now) ? 0 : now;
      };
      const upper = fixed(spec.upper);
      return { ...spec, limit: fixed(spec.limit)!, ...(upper === undefined ? {} : { upper }) };
    },
  };
}

export const threshold: ConditionKind<ThresholdCondition, LimitClaim> = {
  kind: 'threshold',
  Spec: ThresholdCondition,
  usual: {
    text: () => tell('limit.usual'),
    make: () => ({ kind: 'threshold', is: 'at or above', limit: 0 }),
  },
  ...common<ThresholdCondition>('figure'),
  evaluate: (spec, context) => compared(spec, context, (figure) => figure),
  claim: (spec, context, index) => limitClaim(spec, context, index, false),
  claimText: limitClaimText,
  workings: (spec, context) => limitColumns(spec, context, (figure) => figure),
};

export const position: ConditionKind<PositionCondition, LimitClaim> = {
  kind: 'position',
  Spec: PositionCondition,
  usual: {
    text: () => tell('position.usual'),
    make: () => ({ kind: 'position', is: 'at or above', limit: 0.75 }),
  },
  ...common<PositionCondition>('share'),
  evaluate(spec, context) {
    const said = compared(spec, context, shareOfRange);
    const { min, max } = readingRange(measuredBy(spec.measure, context.readings));
    const flat = said.active && !(max > min);
    return {
      ...said,
      ...(flat
        ? {
            note: (locale: Locale) => say(locale, Number.isNaN(min) ? 'note.noValues' : 'note.flat'),
          }
        : {}),
    };
  },
  claim: (spec, context, index) => limitClaim(spec, context, index, true),
  claimText: limitClaimText,
  workings(spec, context) {
    const measured = measuredBy(spec.measure, context.readings);
    const { min, max } = readingRange(measured);
    return [
      ...limitColumns(spec, context, shareOfRange),
      {
        name: tell('position.working'),
        values: measured.value.map((value) => (max > min ? (value - min) / (max - min) : Number.NaN)),
      },
    ];
  },
};
