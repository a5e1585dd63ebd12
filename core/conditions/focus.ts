import { IsIn } from 'class-validator';
import { type ConditionKind, verdicts } from './condition-kind';

/** Met by the mark that the pointer or the keyboard is on. It passes, and leaves no trace. */
export class FocusCondition {
  @IsIn(['focus'])
  kind!: 'focus';
}

export const focus: ConditionKind<FocusCondition> = {
  kind: 'focus',
  Spec: FocusCondition,
  levers: () => [],
  usual: { text: 'pointed at', make: () => ({ kind: 'focus' }) },
  restText: 'nothing is pointed at',
  readsFocus: () => true,
  evaluate(_spec, { readings, focus: index = -1 }) {
    const verdict = new Uint8Array(readings.length);
    if (index < 0 || index >= readings.length) return { active: false, verdict };
    verdict[index] = verdicts.yes;
    return { active: true, verdict };
  },
  filters: () => null,
  rowFilter: () => null,
  unfit: () => null,
  parts: () => ['that are pointed at'],
  explain: (_spec, context, index) =>
    context.focus === index ? 'it is pointed at' : 'another one is pointed at',
};
