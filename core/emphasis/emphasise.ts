import type { Cue } from '../board/cue';
import type { Look } from '../board/look';
import { type ConditionContext, type Evaluation, verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';

export const markStates = ['plain', 'muted', 'lit'] as const;
const plain = 0;
const muted = 1;
const lit = 2;

/** State and look of every mark of a chart. */
export interface Emphasis {
  /** Per mark, an index into `markStates`. */
  state: Uint8Array;
  /** Per mark, an index into `looks`, or -1 where the mark is not lit. */
  look: Int16Array;
  looks: Look[];
  litCount: number;
  /** True when some lighting cue holds something. */
  active: boolean;
  evaluations: { cue: Cue; evaluation: Evaluation }[];
}

/** For each property the first look that sets it wins. */
const mergeLooks = (first: Look, second: Look): Look => ({ ...second, ...first });

/**
 * Puts a chart's cues together. No active cue: all marks plain, or muted where a cue asks for that while at rest.
 * Any active cue: marks that none of them lights are muted.
 */
export function emphasise(cues: readonly Cue[], context: ConditionContext): Emphasis {
  const n = context.readings.length;
  const lighting = cues.filter((cue) => cue.effect === 'light' && !cue.off);
  const evaluations = lighting.map((cue) => ({
    cue,
    evaluation: conditionKinds.get(cue.condition.kind).evaluate(cue.condition, context),
  }));
  const active = evaluations.some(({ evaluation }) => evaluation.active);
  const resting = lighting.some((cue) => cue.resting === 'muted') ? muted : plain;
  const state = new Uint8Array(n).fill(active ? muted : resting);
  const look = new Int16Array(n).fill(-1);
  const looks: Look[] = [];

  // Marks lit by the same cues share one merged look: found by the look so far, for each cue that joins in.
  for (const { cue, evaluation } of evaluations) {
    if (!evaluation.active) continue;
    const { verdict } = evaluation;
    const joined = new Int16Array(looks.length + 1).fill(-1);
    for (let i = 0; i < n; i++) {
      if (verdict[i] !== verdicts.yes) continue;
      state[i] = lit;
      const before = look[i]!;
      let index = joined[before + 1]!;
      if (index < 0) {
        const first = looks[before];
        index = looks.push(first ? mergeLooks(first, cue.look) : { ...cue.look }) - 1;
        joined[before + 1] = index;
      }
      look[i] = index;
    }
  }
  let litCount = 0;
  for (let i = 0; i < n; i++) if (state[i] === lit) litCount++;
  return { state, look, looks, litCount, active, evaluations };
}
