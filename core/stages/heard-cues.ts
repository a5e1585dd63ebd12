import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import type { LeverContext } from '../conditions/condition-kind';
import { kindOf } from '../levers/registry';

/** Whether a switch is on; true where there is none. */
export function isOn(when: string | undefined, { lever, stand }: LeverContext): boolean {
  const found = when === undefined ? undefined : lever(when);
  return !found || (kindOf(found).isOn?.(stand(found.id)) ?? true);
}

/** The cues of a chart that are neither switched off by the author nor by a switch. */
export const heardCues = ({ cues }: Chart, context: LeverContext): Cue[] =>
  cues.filter((cue) => !cue.off && isOn(cue.when, context));
