import type { Chart } from '../board/chart';
import { type Cue, isStandIn } from '../board/cue';
import type { ConditionContext } from '../conditions/condition-kind';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import { restCategory } from '../data/kept-categories';
import { say } from '../messages/say';
import { rehearsedMeasure } from '../pipeline/chart-rules';
import type { Emphasis } from '../pipeline/emphasise';
import { markStates } from '../pipeline/emphasise';
import { measureText } from '../words/measure-text';
import type { Vocabulary } from '../words/vocabulary';
import { claimWords } from './claim-words';

/**
 * Why a mark is as it is, in one sentence with numbers: "Lit: rank 2 of 14 by passengers (48,210), within Count 3".
 * A muted mark names what each active cue has against it.
 */
export function whyText(
  chart: Chart,
  emphasis: Emphasis,
  context: ConditionContext,
  index: number,
  words: Vocabulary,
): string {
  // Of several measures, the reading is judged for all of its marks.
  const judged = index % Math.max(1, context.readings.length);
  const said = claimWords(chart, words);
  const { locale } = words;
  const state = markStates[emphasis.state[index] ?? 0]!;
  const active = emphasis.evaluations.filter(({ evaluation }) => evaluation.active);
  if (context.readings.category[judged] === restCategory && state !== 'lit')
    return say(locale, 'why.others', { state, n: context.readings.kept?.rest ?? 0 });
  const rehearsed = rehearsedMeasure(chart);
  if (rehearsed && index < context.readings.length) {
    return say(locale, 'why.base', {
      state,
      base: measureText(chart.measure, words),
      measure: measureText(rehearsed, words),
    });
  }
  if (!active.length) {
    if (!emphasis.evaluations.length) return '';
    const rests = emphasis.evaluations.map(({ cue }) => conditionKinds.get(cue.condition.kind).restText);
    const known = [...new Set(rests.flatMap((rest) => rest?.(locale) ?? []))];
    return say(locale, 'why', { state, reasons: known.join(', ') || say(locale, 'rest.none') });
  }
  // What stands in for a lever explains itself as if the lever held it.
  const within = ({ resting }: Cue, standsIn: boolean | undefined): ConditionContext =>
    standsIn && isStandIn(resting)
      ? { ...context, positionOf: (id) => (id === resting.lever ? resting.position : context.positionOf(id)) }
      : context;
  const speaking =
    state === 'lit' ? active.filter(({ evaluation }) => evaluation.verdict[index] === verdicts.yes) : active;
  const reasons = speaking.map(({ cue, standsIn }) => {
    const kind = conditionKinds.get(cue.condition.kind);
    const why = kind.claimText(kind.claim(cue.condition, within(cue, standsIn), judged), said);
    return standsIn ? say(locale, 'why.default', { why }) : why;
  });
  return say(locale, 'why', { state, reasons: [...new Set(reasons)].join('; ') });
}
