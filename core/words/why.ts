import type { Chart } from '../board/chart';
import type { ConditionContext, ExplainWords } from '../conditions/condition-kind';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Emphasis } from '../emphasis/emphasise';
import { markStates } from '../emphasis/emphasise';
import { keyText } from './key-text';
import { measureText } from './measure-text';
import { numberText } from './number-text';
import { atStart, type Vocabulary } from './vocabulary';

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
  const type = words.field(chart.by.field)?.type;
  const explain: ExplainWords = {
    measure: measureText(chart.measure, words),
    figure: numberText,
    key: (key) => keyText(key, type, chart.by.grain),
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
  const speaking =
    state === 'lit' ? active.filter(({ evaluation }) => evaluation.verdict[index] === verdicts.yes) : active;
  const reasons = speaking.map(({ cue }) =>
    conditionKinds.get(cue.condition.kind).explain(cue.condition, context, index, explain),
  );
  return `${atStart(state)}: ${[...new Set(reasons)].join('; ')}.`;
}
