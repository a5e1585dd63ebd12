import 'reflect-metadata/lite';
import { ArrayMaxSize, ArrayMinSize, IsIn } from 'class-validator';
import type { Measure } from '../board/measure';
import { OfKind } from '../board/of-kind';
import { listed } from '../words/plural';
import { optionWord, type Part, under } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import {
  type AlongAxis,
  betweenReadings,
  type ChartMeasures,
  type Claim,
  type ConditionContext,
  type ConditionKind,
  type Evaluation,
  verdicts,
} from './condition-kind';
import { type Condition, conditionKinds } from './registry';

/** Met by what meets every one of several conditions. Those that rest have no say. */
export class AllCondition {
  @IsIn(['all'])
  kind!: 'all';

  @ArrayMinSize(1)
  @ArrayMaxSize(12)
  @OfKind(() => conditionKinds, true)
  of!: Condition[];
}

/** Met by what meets at least one of several conditions. */
export class AnyCondition {
  @IsIn(['any'])
  kind!: 'any';

  @ArrayMinSize(1)
  @ArrayMaxSize(12)
  @OfKind(() => conditionKinds, true)
  of!: Condition[];
}

/** Met by what does not meet a condition; of a null nothing is known either way. */
export class NotCondition {
  @IsIn(['not'])
  kind!: 'not';

  @OfKind(() => conditionKinds)
  of!: Condition;
}

type Several = AllCondition | AnyCondition;

/** A condition by another measure than the chart's own, where it goes by one at all. */
export const byMeasure = (condition: Condition, measure: Measure): Condition =>
  conditionKinds.get(condition.kind).withMeasure?.(condition, measure) ?? condition;

const evaluateOne = (condition: Condition, context: ConditionContext): Evaluation =>
  conditionKinds.get(condition.kind).evaluate(condition, context);

/** What a condition made of others says, and what each of them does that is not at rest. */
interface SeveralClaim extends Claim {
  of: Claim[];
}

const claimOne = (condition: Condition, context: ConditionContext, index: number): Claim =>
  conditionKinds.get(condition.kind).claim(condition, context, index);

/** Several conditions along the axis: it changes wherever one of them does. */
function joinedAlong(active: readonly Evaluation[], join: (a: number, b: number) => number): AlongAxis {
  const sided = active.find(({ variant }) => variant)?.along?.variant;
  return {
    cuts: [...new Set(active.flatMap(({ along }) => along?.cuts ?? []))].sort((a, b) => a - b),
    verdict: (at, before, after) =>
      active.map((each) => betweenReadings(each, at, before, after)).reduce((a, b) => join(a, b)),
    ...(sided ? { variant: sided } : {}),
  };
}

function evaluateSeveral(
  { of }: Several,
  context: ConditionContext,
  join: (a: number, b: number) => number,
): Evaluation {
  const active = of.map((condition) => evaluateOne(condition, context)).filter((each) => each.active);
  const verdict = new Uint8Array(context.readings.length);
  if (!active.length) return { active: false, verdict };
  verdict.set(active[0]!.verdict);
  for (const { verdict: other } of active.slice(1)) {
    if (join === Math.min)
      for (let i = 0; i < verdict.length; i++) verdict[i] = other[i]! < verdict[i]! ? other[i]! : verdict[i]!;
    else
      for (let i = 0; i < verdict.length; i++) verdict[i] = other[i]! > verdict[i]! ? other[i]! : verdict[i]!;
  }
  const notes = [...new Set(active.flatMap(({ note }) => note ?? []))];
  const sided = active.find(({ variant }) => variant);
  return {
    active: true,
    verdict,
    ...(sided?.variant ? { variant: sided.variant } : {}),
    ...(active.some(({ along }) => along) ? { along: joinedAlong(active, join) } : {}),
    ...(notes.length ? { note: listed(notes) } : {}),
  };
}

/** The sides that the first of several conditions with sides tells apart. */
const sidedOf = (of: readonly Condition[], words: Vocabulary): string[][] =>
  of.flatMap((each) => {
    const sides = conditionKinds.get(each.kind).variants?.(each, words) ?? [];
    return sides.length ? [sides] : [];
  });

const joinOptions = [
  { value: 'all', text: 'and' },
  { value: 'any', text: 'or' },
];

function severalParts(spec: Several, words: Vocabulary, chart?: ChartMeasures): Part[] {
  return spec.of.flatMap((condition, i): Part[] => [
    ...(i ? [' ', optionWord('And or or', ['kind'], spec.kind, joinOptions), ' '] : []),
    ...under(['of', i], conditionKinds.get(condition.kind).parts(condition, words, chart)),
  ]);
}

function opposite(verdict: Uint8Array): Uint8Array {
  const turned = new Uint8Array(verdict.length);
  for (let i = 0; i < turned.length; i++) turned[i] = verdicts.yes - verdict[i]!;
  return turned;
}

const common = {
  filters: () => null,
  rowFilter: () => null,
};

function several<S extends Several>(
  kind: S['kind'],
  Spec: new () => S & object,
  join: (a: number, b: number) => number,
  word: string,
): ConditionKind<S, SeveralClaim> {
  return {
    kind,
    Spec,
    ...common,
    levers: ({ of }) => [...new Set(of.flatMap((each) => conditionKinds.get(each.kind).levers(each)))],
    needs: ({ of }) => of.flatMap((each) => conditionKinds.get(each.kind).needs?.(each) ?? []),
    readsFocus: ({ of }) => of.some((each) => conditionKinds.get(each.kind).readsFocus?.(each) ?? false),
    evaluate: (spec, context) => evaluateSeveral(spec, context, join),
    unfit(spec, keys, lever, words) {
      for (const each of spec.of) {
        const problem = conditionKinds.get(each.kind).unfit(each, keys, lever, words);
        if (problem) return problem;
      }
      return null;
    },
    readsFormulas: ({ of }) =>
      of.some((each) => conditionKinds.get(each.kind).readsFormulas?.(each) ?? false),
    readsEvents: ({ of }) => of.some((each) => conditionKinds.get(each.kind).readsEvents?.(each) ?? false),
    restretched: (spec, before, after) => ({
      ...spec,
      of: spec.of.map((each) => conditionKinds.get(each.kind).restretched?.(each, before, after) ?? each),
    }),
    withMeasure: (spec, measure) => ({ ...spec, of: spec.of.map((each) => byMeasure(each, measure)) }),
    measures: ({ of }) => of.flatMap((each) => conditionKinds.get(each.kind).measures?.(each) ?? []),
    variants: ({ of }, words) => sidedOf(of, words)[0] ?? [],
    sideLooks: ({ of }, words) =>
      of.flatMap((each) => {
        const looks = conditionKinds.get(each.kind).sideLooks?.(each, words);
        return looks ? [looks] : [];
      })[0] ?? [],
    legend(spec, context, words) {
      const texts = spec.of.map((each) => conditionKinds.get(each.kind).legend(each, context, words));
      const sided = texts.find(({ length }) => length > 1) ?? [''];
      return sided.map((side) => texts.map((text) => (text.length > 1 ? side : text[0])).join(` ${word} `));
    },
    parts: severalParts,
    without(spec, lever, context) {
      const of = spec.of.flatMap((each): Condition[] => {
        const inner = conditionKinds.get(each.kind);
        if (!inner.levers(each).includes(lever)) return [each];
        const left = inner.without?.(each, lever, context) as Condition | null | undefined;
        return left ? [left] : [];
      });
      return of.length ? { ...spec, of } : null;
    },
    claim(spec, context, index) {
      const active = spec.of.filter((each) => evaluateOne(each, context).active);
      const of = active.map((each) => claimOne(each, context, index));
      const [first = verdicts.unknown, ...rest] = of.map(({ verdict }) => verdict);
      return { says: kind, verdict: rest.reduce((a, b) => join(a, b), first), of };
    },
    claimText({ verdict, of }, words) {
      const met = verdict === verdicts.yes;
      // Of what must all hold, those are told that do not; of what one is enough of, those that do.
      const telling =
        met === (kind === 'all') ? of : of.filter((each) => (each.verdict === verdicts.yes) === met);
      return telling.map((each) => conditionKinds.get(each.says).claimText(each, words)).join(' and ');
    },
    workings: (spec, context) =>
      spec.of.flatMap((each) => conditionKinds.get(each.kind).workings?.(each, context) ?? []),
  };
}

export const all = several<AllCondition>('all', AllCondition, Math.min, 'and');
export const any = several<AnyCondition>('any', AnyCondition, Math.max, 'or');

/** What is left of a period when so much of it is taken away. */
const left = { whole: 'none', part: 'part', none: 'whole' } as const;

export const not: ConditionKind<NotCondition, SeveralClaim> = {
  kind: 'not',
  Spec: NotCondition,
  levers: ({ of }) => conditionKinds.get(of.kind).levers(of),
  needs: ({ of }) => conditionKinds.get(of.kind).needs?.(of) ?? [],
  readsFocus: ({ of }) => conditionKinds.get(of.kind).readsFocus?.(of) ?? false,
  evaluate({ of }, context) {
    // The sides of what is not met are of no use.
    const { verdict, along, variant: _sides, ...rest } = evaluateOne(of, context);
    return {
      ...rest,
      verdict: opposite(verdict),
      ...(along
        ? {
            along: {
              cuts: along.cuts,
              verdict: (at, before, after) => verdicts.yes - along.verdict(at, before, after),
            },
          }
        : {}),
    };
  },
  readsFormulas: ({ of }) => conditionKinds.get(of.kind).readsFormulas?.(of) ?? false,
  readsEvents: ({ of }) => conditionKinds.get(of.kind).readsEvents?.(of) ?? false,
  restretched: (spec, before, after) => ({
    ...spec,
    of: conditionKinds.get(spec.of.kind).restretched?.(spec.of, before, after) ?? spec.of,
  }),
  withMeasure: (spec, measure) => ({ ...spec, of: byMeasure(spec.of, measure) }),
  measures: ({ of }) => conditionKinds.get(of.kind).measures?.(of) ?? [],
  legend: ({ of }, context, words) => [
    `not ${listed(conditionKinds.get(of.kind).legend(of, context, words))}`,
  ],
  filters: ({ of }, lever) => conditionKinds.get(of.kind).filters(of, lever),
  rowFilter({ of }, context) {
    const inner = conditionKinds.get(of.kind).rowFilter(of, context);
    return (
      inner && {
        ...inner,
        keeps: (value) => !inner.keeps(value),
        ...(inner.covers ? { covers: (first, last) => left[inner.covers!(first, last)] } : {}),
        text: (read) => `all but ${inner.text(read)}`,
      }
    );
  },
  unfit: ({ of }, keys, lever, words) => conditionKinds.get(of.kind).unfit(of, keys, lever, words),
  parts: ({ of }, words, chart) => [
    'not ',
    ...under(['of'], conditionKinds.get(of.kind).parts(of, words, chart)),
  ],
  without(spec, lever, context) {
    const { of } = spec;
    const rest = conditionKinds.get(of.kind).without?.(of, lever, context) as Condition | null | undefined;
    return rest ? { ...spec, of: rest } : null;
  },
  claim({ of }, context, index) {
    const inner = claimOne(of, context, index);
    return { says: 'not', verdict: verdicts.yes - inner.verdict, of: [inner] };
  },
  claimText: ({ of: [inner] }, words) => conditionKinds.get(inner!.says).claimText(inner!, words),
  workings: ({ of }, context) => conditionKinds.get(of.kind).workings?.(of, context) ?? [],
};
