import type { Chart } from '../board/chart';
import { type Cue, isStandIn } from '../board/cue';
import { formatOf } from '../board/measure';
import type { ConditionContext, ExplainWords } from '../conditions/condition-kind';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Emphasis } from '../emphasis/emphasise';
import { markStates } from '../emphasis/emphasise';
import { figureWriter } from './figure-writer';
import { keyText } from './key-text';
import { atStart } from './letter-case';
import { measureText } from './measure-text';
import type { Vocabulary } from './vocabulary';

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
  const type = words.field(chart.by.field)?.type;
  const explain: ExplainWords = {
    measure: (other) => measureText(other ?? chart.measure, words),
    figure: figureWriter(formatOf(chart.measure)).full,
    key: (key, of) =>
      of === 'series' && chart.split
        ? keyText(key, words.field(chart.split.field)?.type, chart.split.grain)
        : keyText(key, type, chart.by.grain),
    lever: (id) => words.lever(id)?.name ?? id,
  };
  const state = markStates[emphasis.state[index] ?? 0]!;
  const active = emphasis.evaluations.filter(({ evaluation }) => evaluation.active);
  if (!active.length) {
    if (!emphasis.evaluations.length) return '';
    const rests = emphasis.evaluations.map(({ cue }) => conditionKinds.get(cue.condition.kind).restText);
    const rest = [...new Set(rests.filter((text) => text !== undefined))].join(', ');
    return `${atStart(state)}: ${rest || 'there is nothing to go by'}.`;
  }
  // What stands in for a lever explains itself as if the lever held it.
  const within = ({ resting }: Cue, standsIn: boolean | undefined): ConditionContext =>
    standsIn && isStandIn(resting)
      ? { ...context, stand: (id) => (id === resting.lever ? resting.position : context.stand(id)) }
      : context;
  const speaking =
    state === 'lit' ? active.filter(({ evaluation }) => evaluation.verdict[index] === verdicts.yes) : active;
  const reasons = speaking.map(({ cue, standsIn }) => {
    const why = conditionKinds
      .get(cue.condition.kind)
      .explain(cue.condition, within(cue, standsIn), judged, explain);
    return standsIn ? `${why} (stands in while nothing is set)` : why;
  });
  return `${atStart(state)}: ${[...new Set(reasons)].join('; ')}.`;
}
