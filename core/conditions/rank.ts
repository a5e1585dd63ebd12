import { closedObject, IsOptional, Own, oneOf } from '../board/validation';
import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { IsIn } from 'class-validator';
import { type Figure, figureLevers, figureNeeds, IsFigure, isLeverFigure } from '../board/figure';
import { idPattern, idSchema } from '../board/id';
import { Measure, measureKey } from '../board/measure';
import { Part } from '../board/part';
import { type Readings, startsOf } from '../data/readings';
import { floatsAt, ints } from '../data/typed-lists';
import type { KeyValue } from '../data/values';
import { figureText, figureWord } from '../levers/figure-word';
import type { LeverContext } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import { type Saying, say } from '../messages/say';
import { measureText, measureWord } from '../words/measure-text';
import { ordinal } from '../words/plural';
import { optionWord, sentenceParts, type Word } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { type Claim, type ConditionKind, measureOf, saysMeasure, verdicts } from './condition-kind';
import { figureNow } from './figures';
import { figuresProblem } from './figures-problem';
import { measuredBy } from './measured';
import { placesIn } from './ranked-places';

export const rankSides = ['highest', 'lowest'] as const;
export const rankTies = ['share', 'first'] as const;
export const rankGroups = ['chart', 'series', 'category'] as const;
type Side = (typeof rankSides)[number] | { lever: string };

const IsSide = () =>
  Own({
    name: 'isSide',
    validate: (value) =>
      rankSides.includes(value as never) ||
      (typeof value === 'object' &&
        value !== null &&
        Object.keys(value).length === 1 &&
        idPattern.test((value as { lever?: string }).lever ?? '')),
    message: 'check.side',
    schema: { anyOf: [oneOf(...rankSides), closedObject({ lever: idSchema })] },
  });

/** Met by the N highest or lowest readings of the chart. A reading without a value has no rank. */
export class RankCondition {
  @IsIn(['rank'])
  kind!: 'rank';

  @IsFigure()
  count!: Figure;

  @IsSide()
  side!: Side;

  /** Readings that are alike all have the place (`share`), or the first in the chart's order has it. */
  @IsIn(rankTies)
  ties!: (typeof rankTies)[number];

  /** What is compared; the chart's own measure where it is left out. */
  @IsOptional()
  @Part(() => Measure)
  measure?: Measure;

  /** Ranks are counted in the whole chart, in each series, or among the series of each category. */
  @IsOptional()
  @IsIn(rankGroups)
  within?: (typeof rankGroups)[number];
}

/** 1 for the highest, -1 for the lowest. */
export function sideNow(side: Side, { lever, positionOf }: LeverContext): 1 | -1 {
  if (typeof side === 'string') return side === 'lowest' ? -1 : 1;
  const source = lever(side.lever);
  const position = positionOf(side.lever);
  return source && position !== undefined ? (kindOf(source).side?.(position) ?? 1) : 1;
}

/**
 * Marks the N readings with the highest (`sign` 1) or lowest (-1) values: those of which fewer than N are better, as
 * SQL's `rank() <= N`; with `first`, of equal ones those that stand first. Nulls (NaN) are never marked. Returns how
 * many are and how many could be.
 */
export function markRanks(
  values: Float64Array,
  count: number,
  sign: 1 | -1,
  ties: 'share' | 'first',
  verdict: Uint8Array,
): { marked: number; ranked: number } {
  const n = values.length;
  const { ranked, lastOf } = placesIn(values, sign);
  if (ranked < n || ties === 'first')
    for (let i = 0; i < n; i++) verdict[i] = Number.isNaN(values[i]!) ? verdicts.unknown : verdicts.no;
  const wanted = Math.max(0, Math.min(ranked, Math.floor(count)));
  if (wanted === 0) return { marked: 0, ranked };
  const { value: last, less: better } = lastOf(wanted);
  let room = wanted - better;
  let marked = 0;
  if (ties === 'share') {
    for (let i = 0; i < n; i++) {
      const within = -sign * values[i]! <= last ? verdicts.yes : 0;
      verdict[i] = verdict[i]! | within;
      marked += within;
    }
    return { marked: marked / verdicts.yes, ranked };
  }
  for (let i = 0; i < n; i++) {
    const place = -sign * values[i]!;
    if (place < last || (place === last && room-- > 0)) {
      verdict[i] = verdicts.yes;
      marked++;
    }
  }
  return { marked, ranked };
}

/** The group in which each reading is ranked, and how many there are; null where that is the whole chart. */
function groupsOf({ within }: RankCondition, readings: Readings): { of: Int32Array; count: number } | null {
  if (within === 'series') return { of: readings.seriesOf, count: readings.starts.length - 1 };
  if (within === 'category') return { of: readings.place, count: readings.places.length };
  return null;
}

/** The readings of each group, in order. */
function membersOf({ of, count }: { of: Int32Array; count: number }): Int32Array[] {
  const starts = startsOf(of, count);
  const next = starts.slice();
  const members = new Int32Array(of.length);
  for (let i = 0; i < of.length; i++) members[next[of[i]!]!++] = i;
  return Array.from({ length: count }, (_, g) => members.subarray(starts[g]!, starts[g + 1]!));
}

/**
 * The place of one reading among others, as SQL's `rank()`; where the first of equal ones go before, as `row_number()` in
 * the chart's order. `alike` are as it is, itself included, and `before` those of them that stand before it.
 */
function placeOf(values: Float64Array, index: number, sign: 1 | -1, ties: 'share' | 'first') {
  const own = values[index]!;
  let better = 0;
  let ranked = 0;
  let alike = 0;
  let before = 0;
  values.forEach((value, i) => {
    if (Number.isNaN(value)) return;
    ranked++;
    if (sign * value > sign * own) better++;
    if (value !== own) return;
    alike++;
    if (i < index) before++;
  });
  return { place: better + 1 + (ties === 'first' ? before : 0), ranked, alike, before };
}

/** The place of every reading as SQL's `rank()`; NaN for those without a value. */
export function allPlaces(values: Float64Array, sign: 1 | -1): Float64Array {
  const places = new Float64Array(values.length).fill(Number.NaN);
  const order = [...values.keys()]
    .filter((i) => !Number.isNaN(values[i]!))
    .sort((a, b) => sign * (values[b]! - values[a]!));
  order.forEach((i, at) => {
    const before = order[at - 1];
    places[i] = before !== undefined && values[before] === values[i] ? places[before]! : at + 1;
  });
  return places;
}

/** What has to be known to understand who is within the first `wanted`. */
function rankNote(
  wanted: number,
  { marked, ranked }: { marked: number; ranked: number },
): Saying | undefined {
  if (wanted === 0) return (locale) => say(locale, 'note.countZero');
  if (marked > wanted) return (locale) => say(locale, 'note.tie', { place: ordinal(wanted, locale) });
  if (wanted > ranked) return (locale) => say(locale, 'note.fewRanked', { n: ranked });
  return undefined;
}

/** Marks ranks group by group, and says in how many of them places are shared. */
function markGroups(
  value: Float64Array,
  wanted: number,
  sign: 1 | -1,
  ties: 'share' | 'first',
  groups: { of: Int32Array; count: number },
  verdict: Uint8Array,
): Saying | undefined {
  let tied = 0;
  for (const members of membersOf(groups)) {
    const own = new Uint8Array(members.length);
    const figures = Float64Array.from(members, (i) => value[i]!);
    if (markRanks(figures, wanted, sign, ties, own).marked > wanted) tied++;
    members.forEach((i, at) => {
      verdict[i] = own[at]!;
    });
  }
  if (wanted === 0) return (locale) => say(locale, 'note.countZero');
  return tied ? (locale) => say(locale, 'note.ties', { place: ordinal(wanted, locale), n: tied }) : undefined;
}

/** What a side is called where it stands in a sentence. */
export const sideText = (side: (typeof rankSides)[number]): string => tell('side', { side });

function sideWord(side: Side, words: Vocabulary): Word {
  const named = typeof side === 'string' ? undefined : words.lever(side.lever);
  return {
    slot: 'side',
    label: tell('rank.side'),
    path: ['side'],
    text: typeof side === 'string' ? sideText(side) : (named?.name ?? side.lever),
    value: side,
    ability: 'side',
  };
}

interface RankClaim extends Claim {
  measure: Measure;
  value: number;
  place: number;
  /** How many have a place. */
  of: number;
  /** How many are as it is, itself included, and how many of those stand before it. */
  alike: number;
  before: number;
  ties: RankCondition['ties'];
  side: (typeof rankSides)[number];
  count: number;
  /** What holds the count. */
  lever?: string;
  within?: { of: 'series' | 'category'; key: KeyValue };
}

export const rank: ConditionKind<RankCondition, RankClaim> = {
  kind: 'rank',
  Spec: RankCondition,
  keepsCategories: true,
  levers: ({ count, side }) => [...figureLevers(count), ...(typeof side === 'object' ? [side.lever] : [])],
  needs: ({ count, side }) => [
    ...figureNeeds('figure', count),
    ...(typeof side === 'object' ? [{ lever: side.lever, ability: 'side' as const }] : []),
  ],
  usual: {
    text: () => tell('rank.usual'),
    make: () => ({ kind: 'rank', count: 3, side: 'highest', ties: 'share' }),
  },
  evaluate(spec, context) {
    const { readings } = context;
    const verdict = new Uint8Array(readings.length);
    const count = figureNow(spec.count, context);
    if (Number.isNaN(count)) return { active: false, verdict };
    const { value } = measuredBy(spec.measure, readings);
    const sign = sideNow(spec.side, context);
    const groups = groupsOf(spec, readings);
    const wanted = Math.max(0, Math.floor(count));
    const note = groups
      ? markGroups(value, wanted, sign, spec.ties, groups, verdict)
      : rankNote(wanted, markRanks(value, count, sign, spec.ties, verdict));
    return { active: true, verdict, ...(note ? { note } : {}) };
  },
  claim(spec, context, index) {
    const { readings } = context;
    const { value } = measuredBy(spec.measure, readings);
    const sign = sideNow(spec.side, context);
    const groups = groupsOf(spec, readings);
    const members = groups ? membersOf(groups)[groups.of[index]!]! : ints(value.length, (i) => i);
    const at = members.indexOf(index);
    const { place, ranked, alike, before } = placeOf(floatsAt(value, members), at, sign, spec.ties);
    const count = Math.max(0, Math.floor(figureNow(spec.count, context)));
    const own = value[index]!;
    return {
      says: 'rank',
      verdict: Number.isNaN(own) ? verdicts.unknown : place <= count ? verdicts.yes : verdicts.no,
      measure: measureOf(spec.measure, context),
      value: own,
      place,
      of: ranked,
      alike,
      before,
      ties: spec.ties,
      side: sign === 1 ? 'highest' : 'lowest',
      count,
      ...(isLeverFigure(spec.count) ? { lever: spec.count.lever } : {}),
      ...(spec.within === 'series'
        ? { within: { of: 'series', key: readings.series[readings.seriesOf[index]!] ?? null } as const }
        : spec.within === 'category'
          ? { within: { of: 'category', key: readings.category[index]! } as const }
          : {}),
    };
  },
  claimText(claim, words) {
    const { measure, value, place, of, alike, before, ties, side, count, lever, within } = claim;
    const { locale } = words;
    if (claim.verdict === verdicts.unknown) return say(locale, 'claim.noRank');
    const [figure] = words.figures(measure, [value]);
    return say(locale, 'claim.rank', {
      place,
      of,
      within: within?.of ?? 'none',
      key: within ? words.key(within.key, within.of === 'series' ? within.of : undefined) : '',
      side,
      measure: words.measure(measure),
      figure: figure!,
      tie: alike < 2 ? 'none' : ties,
      order: ordinal(before + 1, locale),
      alike,
      is: claim.verdict === verdicts.yes ? 'yes' : 'no',
      held: lever === undefined ? 'no' : 'yes',
      lever: lever === undefined ? '' : words.lever(lever),
      count,
    });
  },
  workings(spec, context) {
    const { value } = measuredBy(spec.measure, context.readings);
    const sign = sideNow(spec.side, context);
    const groups = groupsOf(spec, context.readings);
    const places = groups ? new Float64Array(value.length) : allPlaces(value, sign);
    for (const members of groups ? membersOf(groups) : []) {
      const own = allPlaces(
        Float64Array.from(members, (i) => value[i]!),
        sign,
      );
      members.forEach((i, at) => {
        places[i] = own[at]!;
      });
    }
    return [
      ...(spec.measure ? [{ name: measureKey(spec.measure), values: value }] : []),
      { name: 'rank', values: places },
      { name: 'count', values: new Float64Array(value.length).fill(figureNow(spec.count, context)) },
    ];
  },
  withMeasure: (spec, measure) => ({ ...spec, measure: spec.measure ?? measure }),
  measures: ({ measure }) => (measure ? [measure] : []),
  more: (spec, { measure, split, ...chart }) => [
    ...(saysMeasure(spec.measure, chart) ? [] : [{ text: tell('rank.byOther'), spec: { ...spec, measure } }]),
    ...(split && !spec.within
      ? [
          { text: tell('rank.perSeries'), spec: { ...spec, within: 'series' as const } },
          { text: tell('rank.perCategory'), spec: { ...spec, within: 'category' as const } },
        ]
      : []),
  ],
  legend(spec, context, words) {
    const count = figureNow(spec.count, context);
    const side = sideNow(spec.side, context) === 1 ? 'highest' : 'lowest';
    const by = saysMeasure(spec.measure, context.chart);
    const n = Math.max(0, Math.floor(count));
    return [
      say(words.locale, 'legend.rank', {
        side,
        by: by ? 'yes' : 'no',
        measure: by ? measureText(measureOf(spec.measure, context.chart ?? {}), words) : '',
        within: spec.within ?? 'chart',
        // What a formula makes of the marks is not known where only levers are.
        known: Number.isNaN(count) ? 'no' : n === 1 ? 'one' : 'yes',
        n: Number.isNaN(count) ? figureText(spec.count, words) : n,
      }),
    ];
  },
  filters: () => null,
  rowFilter: () => null,
  unfit: ({ count }, _keys, lever, words) => figuresProblem(count, lever, words),
  parts: (spec, words, chart) =>
    sentenceParts('rank', {
      single: spec.count === 1 ? 'yes' : 'no',
      count: figureWord(tell('rank.count'), ['count'], spec.count, words),
      side: sideWord(spec.side, words),
      by: saysMeasure(spec.measure, chart) ? 'yes' : 'no',
      measure: measureWord(spec.measure, words, chart),
      inside: spec.within ? 'yes' : 'no',
      within: optionWord(tell('rank.withinLabel'), ['within'], spec.within, [
        { value: 'chart', text: tell('rank.within', { of: 'chart' }) },
        { value: 'series', text: tell('rank.within', { of: 'series' }) },
        { value: 'category', text: tell('rank.within', { of: 'category' }) },
      ]),
      ties: optionWord(tell('rank.ties'), ['ties'], spec.ties, [
        { value: 'share', text: tell('rank.allTies') },
        { value: 'first', text: tell('rank.firstTies'), note: tell('rank.firstTiesNote') },
      ]),
    }),
  without(spec, lever, context) {
    const count =
      isLeverFigure(spec.count) && spec.count.lever === lever ? figureNow(spec.count, context) : spec.count;
    const side =
      typeof spec.side === 'object' && spec.side.lever === lever
        ? rankSides[sideNow(spec.side, context) === 1 ? 0 : 1]
        : spec.side;
    return { ...spec, count: Number.isNaN(count) ? 3 : count, side };
  },
};
