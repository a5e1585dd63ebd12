import { IsIn, ValidateBy } from 'class-validator';
import { type Figure, figureLevers, IsFigure, isLeverFigure } from '../board/figure';
import { idPattern } from '../board/id';
import { kindOf } from '../levers/registry';
import { figureWord } from '../words/figure-word';
import { ordinal } from '../words/plural';
import { optionWord, type Word } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { type ConditionKind, type LeverContext, verdicts } from './condition-kind';
import { figureNow } from './figures';
import { quickSelect } from './quick-select';

export const rankSides = ['highest', 'lowest'] as const;
export const rankTies = ['share', 'first'] as const;
type Side = (typeof rankSides)[number] | { lever: string };

const IsSide = () =>
  ValidateBy({
    name: 'isSide',
    validator: {
      validate: (value) =>
        rankSides.includes(value) ||
        (typeof value === 'object' &&
          value !== null &&
          Object.keys(value).length === 1 &&
          typeof value.lever === 'string' &&
          idPattern.test(value.lever)),
      defaultMessage: (args) => `${args?.property} must be highest, lowest, or a lever: {"lever": "side"}`,
    },
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
}

/** 1 for the highest, -1 for the lowest. */
export function sideNow(side: Side, { lever, stand }: LeverContext): 1 | -1 {
  if (typeof side === 'string') return side === 'lowest' ? -1 : 1;
  const source = lever(side.lever);
  const position = stand(side.lever);
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
  const known = new Float64Array(n);
  let ranked = 0;
  for (let i = 0; i < n; i++) {
    const value = values[i]!;
    const missing = Number.isNaN(value);
    // Without a branch that could be guessed wrong: a missing one is written over by the next.
    known[ranked] = -sign * value;
    ranked += missing ? 0 : 1;
    verdict[i] = missing ? verdicts.unknown : verdicts.no;
  }
  const wanted = Math.max(0, Math.min(ranked, Math.floor(count)));
  if (wanted === 0) return { marked: 0, ranked };
  const last = quickSelect(known, wanted - 1, ranked);
  let better = 0;
  for (let i = 0; i < ranked; i++) if (known[i]! < last) better++;
  let room = wanted - better;
  let marked = 0;
  if (ties === 'share') {
    for (let i = 0; i < n; i++) {
      const within = -sign * values[i]! <= last ? 1 : 0;
      verdict[i] = verdict[i]! | (within << 1);
      marked += within;
    }
    return { marked, ranked };
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

/** The place of one reading, how many have one, and how many are like it; as SQL's `rank()`. */
function placeOf(values: Float64Array, index: number, sign: 1 | -1) {
  const own = sign * values[index]!;
  let place = 1;
  let ranked = 0;
  let alike = 0;
  for (const value of values) {
    if (Number.isNaN(value)) continue;
    ranked++;
    if (sign * value > own) place++;
    if (sign * value === own) alike++;
  }
  return { place, ranked, alike };
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

function sideWord(side: Side, words: Vocabulary): Word {
  const named = typeof side === 'string' ? undefined : words.lever(side.lever);
  return {
    slot: 'side',
    label: 'Side',
    path: ['side'],
    text: typeof side === 'string' ? side : (named?.name ?? side.lever),
    value: side,
    ability: 'side',
  };
}

export const rank: ConditionKind<RankCondition> = {
  kind: 'rank',
  Spec: RankCondition,
  levers: ({ count, side }) => [...figureLevers(count), ...(typeof side === 'object' ? [side.lever] : [])],
  needs: ({ count, side }) => [
    ...figureLevers(count).map((lever) => ({ lever, ability: 'figure' as const })),
    ...(typeof side === 'object' ? [{ lever: side.lever, ability: 'side' as const }] : []),
  ],
  usual: {
    text: 'within the 3 highest',
    make: () => ({ kind: 'rank', count: 3, side: 'highest', ties: 'share' }),
  },
  evaluate(spec, context) {
    const { readings } = context;
    const verdict = new Uint8Array(readings.length);
    const count = figureNow(spec.count, context);
    if (Number.isNaN(count)) return { active: false, verdict };
    const { marked, ranked } = markRanks(
      readings.value,
      count,
      sideNow(spec.side, context),
      spec.ties,
      verdict,
    );
    const wanted = Math.max(0, Math.floor(count));
    const note =
      wanted === 0
        ? 'the count is 0'
        : marked > wanted
          ? `a tie at the ${ordinal(wanted)} place`
          : wanted > ranked
            ? `there ${ranked === 1 ? 'is' : 'are'} only ${ranked.toLocaleString('en')}`
            : undefined;
    return { active: true, verdict, ...(note ? { note } : {}) };
  },
  explain(spec, context, index, words) {
    const { value } = context.readings;
    const own = value[index]!;
    if (Number.isNaN(own)) return 'it has no value, so it has no rank';
    const sign = sideNow(spec.side, context);
    const { place, ranked, alike } = placeOf(value, index, sign);
    const count = Math.max(0, Math.floor(figureNow(spec.count, context)));
    const from = sign === 1 ? 'highest' : 'lowest';
    const named = isLeverFigure(spec.count) ? `${words.lever(spec.count.lever)} ` : '';
    const tie = alike > 1 ? `, shared by ${alike}` : '';
    const rankText = `rank ${place} of ${ranked} from the ${from} by ${words.measure} (${words.figure(own)}${tie})`;
    return place <= count
      ? `${rankText}, within ${named}${count}`
      : `${rankText}; ${named || 'the count '}is ${count}`;
  },
  workings(spec, context) {
    const { value } = context.readings;
    const sign = sideNow(spec.side, context);
    const count = figureNow(spec.count, context);
    return [
      { name: 'rank', values: allPlaces(value, sign) },
      { name: 'count', values: new Float64Array(value.length).fill(count) },
    ];
  },
  filters: () => null,
  rowFilter: () => null,
  unfit: () => null,
  parts: (spec, words) => [
    'within ',
    figureWord('Count', ['count'], spec.count, words),
    ' from the ',
    sideWord(spec.side, words),
    ', ties ',
    optionWord('Ties', ['ties'], spec.ties, [
      { value: 'share', text: 'sharing a place', note: 'all of them are lit' },
      { value: 'first', text: 'going to the first', note: 'never more than the count' },
    ]),
  ],
  without(spec, lever, context) {
    const count = figureLevers(spec.count).includes(lever) ? figureNow(spec.count, context) : spec.count;
    const side =
      typeof spec.side === 'object' && spec.side.lever === lever
        ? rankSides[sideNow(spec.side, context) === 1 ? 0 : 1]
        : spec.side;
    return { ...spec, count: Number.isNaN(count) ? 3 : count, side };
  },
};
