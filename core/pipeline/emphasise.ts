import { type Cue, isStandIn } from '../board/cue';
import { type Look, seriesColour } from '../board/look';
import type { Otherwise } from '../board/otherwise';
import { type ConditionContext, type Evaluation, verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Readings } from '../data/readings';

export const markStates = ['plain', 'muted', 'lit', 'gone'] as const;
export type MarkState = (typeof markStates)[number];
export const stateCode = { plain: 0, muted: 1, lit: 2, gone: 3 } as const;

/** One lighting cue and what its condition says. */
export interface CueEvaluation {
  cue: Cue;
  evaluation: Evaluation;
  /** Its levers hold nothing: a position of the author's stands in. */
  standsIn?: true;
}

/** State and look of every mark of a chart. */
export interface Emphasis {
  /** Per mark, an index into `markStates`. */
  state: Uint8Array;
  /** Per mark, an index into `looks`, or -1 where the mark is not lit. */
  look: Int16Array;
  looks: readonly Look[];
  litCount: number;
  /** How many readings are lit: of several measures, each reading counts once. */
  litReadings: number;
  /** The state of what is not lit, an index into `markStates`. */
  rest: number;
  /** True when some lighting cue holds something. */
  active: boolean;
  evaluations: CueEvaluation[];
  /** The look that results when a cue lights, after those that gave `before` (-1: none), as an index into `looks`. */
  blend(before: number, cue: number, variant: number, series: number): number;
}

export interface EmphasisOptions {
  /** What marks are that no active cue lights. */
  otherwise?: Otherwise['marks'];
  /** Each series' own look, by its index; for looks whose colour follows the series. */
  seriesLook?(series: number): Look;
  /** The marks, where there are several for each reading that conditions judge. */
  marks?: Readings;
  /** The first of several measures is what the others are held against: its marks are never lit. */
  mutedBase?: boolean;
}

/** The look that a cue gives a mark by itself. */
function ownLook(cue: Cue, variant: number, series: number, { seriesLook }: EmphasisOptions): Look {
  const look = { ...cue.look, ...cue.looks?.[variant] };
  if (look.colour !== seriesColour) return look;
  const { colour: _followed, ...rest } = look;
  return { ...seriesLook?.(series), ...rest };
}

/** Evaluates a cue; at rest, with the position that stands in for what its lever does not hold. */
function evaluated(cue: Cue, context: ConditionContext): CueEvaluation {
  const kind = conditionKinds.get(cue.condition.kind);
  const evaluation = kind.evaluate(cue.condition, context);
  const { resting } = cue;
  if (evaluation.active || !isStandIn(resting)) return { cue, evaluation };
  const positionOf = (id: string) => (id === resting.lever ? resting.position : context.positionOf(id));
  return { cue, evaluation: kind.evaluate(cue.condition, { ...context, positionOf }), standsIn: true };
}

/** What a condition says of each of `marks` marks, mark `i` being of reading `i % readings`. */
function spreadOver(evaluation: Evaluation, readings: number, marks: number): Evaluation {
  const spread = (of: Uint8Array) => Uint8Array.from({ length: marks }, (_, i) => of[i % readings]!);
  const { verdict, variant, along } = evaluation;
  return {
    ...evaluation,
    verdict: spread(verdict),
    ...(variant ? { variant: spread(variant) } : {}),
    ...(along
      ? {
          along: {
            ...along,
            verdict: (at, before, after) => along.verdict(at, before % readings, after % readings),
          },
        }
      : {}),
  };
}

/** Hands out merged looks: the same cues, sides and series always give the same one. */
function lookBlender(evaluations: readonly CueEvaluation[], options: EmphasisOptions) {
  const looks: Look[] = [];
  const known = new Map<string, number>();
  const bySeries = evaluations.map(
    ({ cue }) =>
      cue.look.colour === seriesColour || cue.looks?.some(({ colour }) => colour === seriesColour) === true,
  );
  const blend = (before: number, index: number, variant: number, series: number): number => {
    const { cue } = evaluations[index]!;
    const key = `${before} ${index} ${cue.looks?.[variant] ? variant : -1} ${bySeries[index] ? series : 0}`;
    const found = known.get(key);
    if (found !== undefined) return found;
    const own = ownLook(cue, variant, series, options);
    // For each property the first look that sets it wins.
    const made = looks.push(before < 0 ? own : { ...own, ...looks[before] }) - 1;
    known.set(key, made);
    return made;
  };
  return { looks, blend, bySeries };
}

/** Marks with a look are lit, the others as said; returns how many are lit. */
function fillStates(state: Uint8Array, look: Int16Array, rest: number): number {
  let lit = 0;
  const more = stateCode.lit - rest;
  for (let i = 0; i < state.length; i++) {
    // 1 for a look, 0 for none: without a branch, since this runs with every move.
    const is = (look[i]! >>> 31) ^ 1;
    state[i] = rest + is * more;
    lit += is;
  }
  return lit;
}

/** With more cues than this, looks are blended mark by mark. */
const mostBits = 8;

/** Sets a bit of each mark that a cue lights: a yes is 2, so its bit is the second. */
function addBit(bits: Uint8Array, verdict: Uint8Array, at: number): void {
  // Four marks in one step; no bit of one reaches the next.
  const words = verdict.byteOffset % 4 ? 0 : verdict.length >> 2;
  const from = new Uint32Array(verdict.buffer, words ? verdict.byteOffset : 0, words);
  const to = new Uint32Array(bits.buffer, 0, words);
  for (let w = 0; w < words; w++) to[w] = to[w]! | (((from[w]! >>> 1) & 0x01010101) << at);
  for (let i = words * 4; i < bits.length; i++) bits[i] = bits[i]! | ((verdict[i]! >> 1) << at);
}

/** The look of each mark by which cues light it: a bit for each, and one blend for each set of bits that occurs. */
function lookByCues(
  lists: readonly Uint8Array[],
  look: Int16Array,
  blend: (before: number, at: number) => number,
): void {
  const n = look.length;
  if (lists.length === 1) {
    // A yes is 2, halved 1: without a branch, since this runs with every move of the pointer.
    const [verdict] = lists;
    const step = blend(-1, 0) + 1;
    for (let i = 0; i < n; i++) look[i] = (verdict![i]! >> 1) * step - 1;
    return;
  }
  const bits = new Uint8Array(n);
  lists.forEach((verdict, at) => {
    addBit(bits, verdict, at);
  });
  const known = new Int16Array(1 << lists.length).fill(-2);
  for (let i = 0; i < n; i++) {
    const set = bits[i]!;
    if (known[set] === -2)
      known[set] = lists.reduce((before, _, at) => (set & (1 << at) ? blend(before, at) : before), -1);
    look[i] = known[set]!;
  }
}

/** Blends what one cue lights into the looks so far; readings that follow each other mostly need the same blend. */
function blendInto(
  look: Int16Array,
  { verdict, variant }: Evaluation,
  seriesOf: Int32Array,
  blend: (before: number, variant: number, series: number) => number,
): void {
  let before = Number.NaN;
  let side = -1;
  let series = -1;
  let made = -1;
  for (let i = 0; i < look.length; i++) {
    if (verdict[i] !== verdicts.yes) continue;
    const on = variant ? variant[i]! : 0;
    if (look[i] !== before || on !== side || seriesOf[i] !== series) {
      before = look[i]!;
      side = on;
      series = seriesOf[i]!;
      made = blend(before, side, series);
    }
    look[i] = made;
  }
}

/**
 * Puts a chart's cues together. No active cue: all marks plain, or muted where a cue asks for that while at rest.
 * Any active cue: marks that none of them lights are muted, or gone where the chart says so.
 */
export function emphasise(
  cues: readonly Cue[],
  context: ConditionContext,
  options: EmphasisOptions = {},
): Emphasis {
  const readings = options.marks ?? context.readings;
  const n = readings.length;
  const lighting = cues.filter((cue) => cue.effect === 'light' && !cue.off);
  const evaluations = lighting.map((cue) => {
    const found = evaluated(cue, context);
    return options.marks?.judged
      ? { ...found, evaluation: spreadOver(found.evaluation, context.readings.length, n) }
      : found;
  });
  const active = evaluations.some(({ evaluation }) => evaluation.active);
  const rest = active
    ? (options.otherwise ?? 'muted')
    : lighting.some((cue) => cue.resting === 'muted')
      ? 'muted'
      : 'plain';
  const look = new Int16Array(n).fill(-1);
  const { looks, blend, bySeries } = lookBlender(evaluations, options);

  const plainOnes = evaluations.flatMap(({ evaluation }, index) =>
    evaluation.active && !evaluation.variant && !bySeries[index] ? [index] : [],
  );
  const sided = evaluations.some(({ evaluation }, index) => evaluation.active && !plainOnes.includes(index));
  if (sided || plainOnes.length > mostBits) {
    evaluations.forEach(({ evaluation }, index) => {
      if (evaluation.active)
        blendInto(look, evaluation, readings.seriesOf, (before, side, series) =>
          blend(before, index, side, series),
        );
    });
  } else {
    const lists = plainOnes.map((index) => evaluations[index]!.evaluation.verdict);
    lookByCues(lists, look, (before, at) => blend(before, plainOnes[at]!, 0, 0));
  }
  const state = new Uint8Array(n);
  const base = options.marks?.judged && options.mutedBase ? context.readings.length : 0;
  const litAll = fillStates(state, look, stateCode[rest]);
  const litReadings = options.marks?.judged ? (litAll * context.readings.length) / n || 0 : litAll;
  const litCount = base ? litAll - litReadings : litAll;
  look.fill(-1, 0, base);
  if (rest !== 'gone') state.fill(stateCode.muted, 0, base);
  return { state, look, looks, litCount, litReadings, rest: stateCode[rest], active, evaluations, blend };
}
