import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { ArrayMaxSize, ArrayMinSize, IsIn } from 'class-validator';
import { OfKind } from '../board/of-kind';
import type { SpecOf } from '../board/specs';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { listed } from '../words/plural';
import { optionWord, type Part, sentenceParts, under } from '../words/sentence';
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
import { greatestOf, leastOf, oppositeOf } from './verdict-lists';

type Condition = SpecOf<'condition'>;
// Of any kind; each is only ever given its own specs.
// biome-ignore lint/suspicious/noExplicitAny: see above
type KindOf = (kind: string) => ConditionKind<any>;

/** Met by what meets every one of several conditions. Those that rest have no say. */
export class AllCondition {
  @IsIn(['all'])
  kind!: 'all';

  @ArrayMinSize(1)
  @ArrayMaxSize(12)
  @OfKind('condition', true)
  of!: Condition[];
}

/** Met by what meets at least one of several conditions. */
export class AnyCondition {
  @IsIn(['any'])
  kind!: 'any';

  @ArrayMinSize(1)
  @ArrayMaxSize(12)
  @OfKind('condition', true)
  of!: Condition[];
}

/** Met by what does not meet a condition; of a null nothing is known either way. */
export class NotCondition {
  @IsIn(['not'])
  kind!: 'not';

  @OfKind('condition')
  of!: Condition;
}

type Several = AllCondition | AnyCondition;

const evaluateOne = (kindOf: KindOf, condition: Condition, context: ConditionContext): Evaluation =>
  kindOf(condition.kind).evaluate(condition, context);

/** What a condition made of others says, and what each of them does that is not at rest. */
interface SeveralClaim extends Claim {
  of: Claim[];
}

const claimOne = (kindOf: KindOf, condition: Condition, context: ConditionContext, index: number): Claim =>
  kindOf(condition.kind).claim(condition, context, index);

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
  kindOf: KindOf,
  { of }: Several,
  context: ConditionContext,
  join: (a: number, b: number) => number,
): Evaluation {
  const active = of.map((condition) => evaluateOne(kindOf, condition, context)).filter((each) => each.active);
  const verdict = new Uint8Array(context.readings.length);
  if (!active.length) return { active: false, verdict };
  verdict.set(active[0]!.verdict);
  const put = join === Math.min ? leastOf : greatestOf;
  for (const { verdict: other } of active.slice(1)) put(verdict, other);
  const notes = active.flatMap(({ note }) => note ?? []);
  const sided = active.find(({ variant }) => variant);
  return {
    active: true,
    verdict,
    ...(sided?.variant ? { variant: sided.variant } : {}),
    ...(active.some(({ along }) => along) ? { along: joinedAlong(active, join) } : {}),
    ...(notes.length
      ? { note: (locale: Locale) => listed([...new Set(notes.map((note) => note(locale)))], locale) }
      : {}),
  };
}

/** The sides that the first of several conditions with sides tells apart. */
const sidedOf = (kindOf: KindOf, of: readonly Condition[], words: Vocabulary): string[][] =>
  of.flatMap((each) => {
    const sides = kindOf(each.kind).variants?.(each, words) ?? [];
    return sides.length ? [sides] : [];
  });

function severalParts(kindOf: KindOf, spec: Several, words: Vocabulary, chart?: ChartMeasures): Part[] {
  const partsAt = (i: number) => {
    const condition = spec.of[i]!;
    return under(['of', i], kindOf(condition.kind).parts(condition, words, chart));
  };
  const how = optionWord(tell('joined.label'), ['kind'], spec.kind, [
    { value: 'all', text: tell('joined.and') },
    { value: 'any', text: tell('joined.or') },
  ]);
  let parts = partsAt(0);
  for (let i = 1; i < spec.of.length; i++)
    parts = sentenceParts('joined', { first: parts, how, next: partsAt(i) });
  return parts;
}

const common = {
  filters: () => null,
  rowFilter: () => null,
};

function several<S extends Several>(
  kindOf: KindOf,
  kind: S['kind'],
  Spec: new () => S & object,
  join: (a: number, b: number) => number,
): ConditionKind<S, SeveralClaim> {
  return {
    kind,
    Spec,
    ...common,
    levers: ({ of }) => [...new Set(of.flatMap((each) => kindOf(each.kind).levers(each)))],
    needs: ({ of }) => of.flatMap((each) => kindOf(each.kind).needs?.(each) ?? []),
    readsFocus: ({ of }) => of.some((each) => kindOf(each.kind).readsFocus?.(each) ?? false),
    evaluate: (spec, context) => evaluateSeveral(kindOf, spec, context, join),
    unfit(spec, keys, lever, words) {
      for (const each of spec.of) {
        const problem = kindOf(each.kind).unfit(each, keys, lever, words);
        if (problem) return problem;
      }
      return null;
    },
    groups: ({ of }, keys, lever) =>
      of.flatMap((each) => kindOf(each.kind).groups?.(each, keys, lever) ?? []),
    readsFormulas: ({ of }) => of.some((each) => kindOf(each.kind).readsFormulas?.(each) ?? false),
    looksBeyondView: ({ of }) => of.some((each) => kindOf(each.kind).looksBeyondView?.(each) ?? false),
    readsEvents: ({ of }) => of.some((each) => kindOf(each.kind).readsEvents?.(each) ?? false),
    restretched: (spec, before, after) => ({
      ...spec,
      of: spec.of.map((each) => kindOf(each.kind).restretched?.(each, before, after) ?? each),
    }),
    withMeasure: (spec, measure) => ({
      ...spec,
      of: spec.of.map((each) => kindOf(each.kind).withMeasure?.(each, measure) ?? each),
    }),
    measures: ({ of }) => of.flatMap((each) => kindOf(each.kind).measures?.(each) ?? []),
    variants: ({ of }, words) => sidedOf(kindOf, of, words)[0] ?? [],
    sideLooks: ({ of }, words) =>
      of.flatMap((each) => {
        const looks = kindOf(each.kind).sideLooks?.(each, words);
        return looks ? [looks] : [];
      })[0] ?? [],
    legend(spec, context, words) {
      const texts = spec.of.map((each) => kindOf(each.kind).legend(each, context, words));
      const sided = texts.find(({ length }) => length > 1) ?? [''];
      return sided.map((side) =>
        texts
          .map((text) => (text.length > 1 ? side : text[0]!))
          .reduce((first, next) => say(words.locale, 'legend.joined', { first, how: kind, next })),
      );
    },
    parts: (spec, words, chart) => severalParts(kindOf, spec, words, chart),
    without(spec, lever, context) {
      const of = spec.of.flatMap((each): Condition[] => {
        const inner = kindOf(each.kind);
        if (!inner.levers(each).includes(lever)) return [each];
        const left = inner.without?.(each, lever, context) as Condition | null | undefined;
        return left ? [left] : [];
      });
      return of.length ? { ...spec, of } : null;
    },
    claim(spec, context, index) {
      const active = spec.of.filter((each) => evaluateOne(kindOf, each, context).active);
      const of = active.map((each) => claimOne(kindOf, each, context, index));
      const [first = verdicts.unknown, ...rest] = of.map(({ verdict }) => verdict);
      return { says: kind, verdict: rest.reduce((a, b) => join(a, b), first), of };
    },
    claimText({ verdict, of }, words) {
      const met = verdict === verdicts.yes;
      // Of what must all hold, those are told that do not; of what one is enough of, those that do.
      const telling =
        met === (kind === 'all') ? of : of.filter((each) => (each.verdict === verdicts.yes) === met);
      return listed(
        telling.map((each) => kindOf(each.says).claimText(each, words)),
        words.locale,
      );
    },
    workings: (spec, context) => spec.of.flatMap((each) => kindOf(each.kind).workings?.(each, context) ?? []),
  };
}

/** What is left of a period when so much of it is taken away. */
const left = { whole: 'none', part: 'part', none: 'whole' } as const;

const notOf = (kindOf: KindOf): ConditionKind<NotCondition, SeveralClaim> => ({
  kind: 'not',
  Spec: NotCondition,
  levers: ({ of }) => kindOf(of.kind).levers(of),
  needs: ({ of }) => kindOf(of.kind).needs?.(of) ?? [],
  readsFocus: ({ of }) => kindOf(of.kind).readsFocus?.(of) ?? false,
  evaluate({ of }, context) {
    // The sides of what is not met are of no use.
    const { verdict, along, variant: _sides, ...rest } = evaluateOne(kindOf, of, context);
    return {
      ...rest,
      verdict: oppositeOf(verdict),
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
  readsFormulas: ({ of }) => kindOf(of.kind).readsFormulas?.(of) ?? false,
  readsEvents: ({ of }) => kindOf(of.kind).readsEvents?.(of) ?? false,
  restretched: (spec, before, after) => ({
    ...spec,
    of: kindOf(spec.of.kind).restretched?.(spec.of, before, after) ?? spec.of,
  }),
  withMeasure: (spec, measure) => ({
    ...spec,
    of: kindOf(spec.of.kind).withMeasure?.(spec.of, measure) ?? spec.of,
  }),
  looksBeyondView: ({ of }) => kindOf(of.kind).looksBeyondView?.(of) ?? false,
  measures: ({ of }) => kindOf(of.kind).measures?.(of) ?? [],
  legend: ({ of }, context, words) => [
    say(words.locale, 'legend.not', {
      what: listed(kindOf(of.kind).legend(of, context, words), words.locale),
    }),
  ],
  filters: ({ of }, lever) => kindOf(of.kind).filters(of, lever),
  rowFilter({ of }, context) {
    const inner = kindOf(of.kind).rowFilter(of, context);
    return (
      inner && {
        ...inner,
        keeps: (value) => !inner.keeps(value),
        ...(inner.covers ? { covers: (first, last) => left[inner.covers!(first, last)] } : {}),
        text: (read) => read.allBut(inner.text(read)),
      }
    );
  },
  unfit: ({ of }, keys, lever, words) => kindOf(of.kind).unfit(of, keys, lever, words),
  groups: ({ of }, keys, lever) => kindOf(of.kind).groups?.(of, keys, lever) ?? [],
  parts: ({ of }, words, chart) =>
    sentenceParts('not', { condition: under(['of'], kindOf(of.kind).parts(of, words, chart)) }),
  without(spec, lever, context) {
    const { of } = spec;
    const rest = kindOf(of.kind).without?.(of, lever, context) as Condition | null | undefined;
    return rest ? { ...spec, of: rest } : null;
  },
  claim({ of }, context, index) {
    const inner = claimOne(kindOf, of, context, index);
    return { says: 'not', verdict: verdicts.yes - inner.verdict, of: [inner] };
  },
  claimText: ({ of: [inner] }, words) => kindOf(inner!.says).claimText(inner!, words),
  workings: ({ of }, context) => kindOf(of.kind).workings?.(of, context) ?? [],
});

/** The kinds that are made of others; `kindOf` finds those. */
export const combinedKinds = (kindOf: KindOf) => [
  several<AllCondition>(kindOf, 'all', AllCondition, Math.min),
  several<AnyCondition>(kindOf, 'any', AnyCondition, Math.max),
  notOf(kindOf),
];

/** The conditions that stand side by side in a condition. */
export const partsOf = (condition: Condition): Condition[] =>
  'of' in condition && Array.isArray(condition.of) ? condition.of : [condition];

/** A condition and one more; both must be met unless the first is already a choice of several. */
export const joined = (condition: Condition, more: Condition): Condition =>
  condition.kind === 'all' || condition.kind === 'any'
    ? { ...condition, of: [...condition.of, more] }
    : { kind: 'all', of: [condition, more] };

/** A condition of several without one of them; of the last two one is left by itself. */
export function without(condition: Condition, index: number): Condition {
  const left = partsOf(condition).filter((_, i) => i !== index);
  return left.length === 1 ? left[0]! : ({ ...condition, of: left } as Condition);
}

/** A condition of several with another one in the place of one of them; one that stands alone becomes the other. */
export const replaced = (condition: Condition, index: number, by: Condition): Condition =>
  'of' in condition && Array.isArray(condition.of)
    ? ({ ...condition, of: condition.of.map((each, i) => (i === index ? by : each)) } as Condition)
    : by;

/** The opposite of a condition. */
export const negated = (condition: Condition): Condition =>
  condition.kind === 'not' ? condition.of : { kind: 'not', of: condition };

export const isNegated = ({ kind }: Condition): boolean => kind === 'not';
