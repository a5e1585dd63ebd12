import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import { conditionKinds } from '../conditions/registry';
import type { LeverContext } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import type { Vocabulary } from '../words/vocabulary';
import { memoLast } from './memo';

/** Whether a switch is on; true where there is none. */
export function isOn(when: string | undefined, { lever, positionOf }: LeverContext): boolean {
  const found = when === undefined ? undefined : lever(when);
  return !found || (kindOf(found).isOn?.(positionOf(found.id)) ?? true);
}

/** A cue with the looks that its sides have of themselves, where it gives them none of its own. */
function withSideLooks(cue: Cue, words: Pick<Vocabulary, 'events'>): Cue {
  const own = conditionKinds.get(cue.condition.kind).sideLooks?.(cue.condition, words) ?? [];
  if (!own.some((look) => look)) return cue;
  return { ...cue, looks: own.map((look, side) => ({ ...look, ...cue.looks?.[side] })) };
}

/** Dresses cues: the same ones again for as long as the events are the same. */
export const dressedCues = () =>
  memoLast(({ cues, events }: { cues: readonly Cue[]; events: Vocabulary['events'] }) =>
    cues.map((cue) => withSideLooks(cue, { events })),
  );

/** The cues of a chart that are neither switched off by the author nor by a switch. */
export const enabledCues = ({ cues }: Chart, context: LeverContext): Cue[] =>
  cues.filter((cue) => !cue.off && isOn(cue.when, context));
