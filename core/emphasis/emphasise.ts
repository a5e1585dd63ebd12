import { type Cue, isStandIn } from '../board/cue';
import { type Look, seriesColour } from '../board/look';
import type { Otherwise } from '../board/otherwise';
import { type ConditionContext, type Evaluation, verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';

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
  const stand = (id: string) => (id === resting.lever ? resting.position : context.stand(id));
  return { cue, evaluation: kind.evaluate(cue.condition, { ...context, stand }), standsIn: true };
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
    const of = bySeries[index] ? series : 0;
    const key = `${before} ${index} ${variant} ${of}`;
    const found = known.get(key);
    if (found !== undefined) return found;
    const own = ownLook(evaluations[index]!.cue, variant, series, options);
    // For each property the first look that sets it wins.
    const made = looks.push(before < 0 ? own : { ...own, ...looks[before] }) - 1;
    known.set(key, made);
    return made;
  };
  return { looks, blend, bySeries };
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
  const { readings } = context;
  const n = readings.length;
  const lighting = cues.filter((cue) => cue.effect === 'light' && !cue.off);
  const evaluations = lighting.map((cue) => evaluated(cue, context));
  const active = evaluations.some(({ evaluation }) => evaluation.active);
  const rest = active
    ? (options.otherwise ?? 'muted')
    : lighting.some((cue) => cue.resting === 'muted')
      ? 'muted'
      : 'plain';
  const look = new Int16Array(n).fill(-1);
  const { looks, blend, bySeries } = lookBlender(evaluations, options);

  evaluations.forEach(({ evaluation }, index) => {
    if (!evaluation.active) return;
    const { verdict, variant } = evaluation;
    if (variant || bySeries[index]) {
      for (let i = 0; i < n; i++)
        if (verdict[i] === verdicts.yes)
          look[i] = blend(look[i]!, index, variant?.[i] ?? 0, readings.seriesOf[i]!);
      return;
    }
    // Marks lit by the same cues share one merged look: found by the look so far.
    const joined = new Int16Array(looks.length + 1).fill(-1);
    for (let i = 0; i < n; i++) {
      if (verdict[i] !== verdicts.yes) continue;
      const before = look[i]!;
      if (joined[before + 1]! < 0) joined[before + 1] = blend(before, index, 0, 0);
      look[i] = joined[before + 1]!;
    }
  });
  const state = new Uint8Array(n);
  let litCount = 0;
  for (let i = 0; i < n; i++) {
    const lit = look[i]! >= 0;
    state[i] = lit ? stateCode.lit : stateCode[rest];
    litCount += lit ? 1 : 0;
  }
  return { state, look, looks, litCount, rest: stateCode[rest], active, evaluations, blend };
}
