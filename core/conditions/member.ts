import { IsIn } from 'class-validator';
import { IsId } from '../board/id';
import { keepValues } from '../cube/row-filter';
import { sameCut } from '../grain';
import type { LeverSource } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import type { KeyValue } from '../values';
import { cutText } from '../words/cut-text';
import { type ConditionKind, type LeverContext, verdicts } from './condition-kind';

/**
 * Met by marks whose category a lever holds: is in a pick, or equals a choice. Equality is on the value, never on the
 * text shown; null is in nothing.
 */
export class MemberCondition {
  @IsIn(['member'])
  kind!: 'member';

  @IsId()
  lever!: string;
}

const sourceOf = (lever: Lever | undefined): LeverSource | undefined =>
  lever && kindOf(lever).source?.(lever);

function heldValues(spec: MemberCondition, { lever, stand }: LeverContext): readonly KeyValue[] {
  const source = lever(spec.lever);
  const position = stand(spec.lever);
  return source && position !== undefined ? (kindOf(source).values?.(position) ?? []) : [];
}

export const member: ConditionKind<MemberCondition> = {
  kind: 'member',
  Spec: MemberCondition,
  levers: (spec) => [spec.lever],
  needs: (spec) => [{ lever: spec.lever, ability: 'values' }],
  usual: { text: 'picked', make: (need) => ({ kind: 'member', lever: need('values') }) },
  restText: 'nothing is picked',

  evaluate(spec, context) {
    const { readings, by } = context;
    const verdict = new Uint8Array(readings.length);
    const source = sourceOf(context.lever(spec.lever));
    if (!source || !sameCut(source, by)) return { active: false, verdict };
    const held = new Set(heldValues(spec, context));
    if (held.size === 0) return { active: false, verdict };
    const { category } = readings;
    for (let i = 0; i < readings.length; i++) {
      const value = category[i]!;
      verdict[i] = value === null ? verdicts.unknown : held.has(value) ? verdicts.yes : verdicts.no;
    }
    return { active: true, verdict };
  },

  filters(spec, lever) {
    const source = sourceOf(lever(spec.lever));
    return source ? { field: source.field, grain: source.grain } : null;
  },

  rowFilter(spec, context) {
    const source = sourceOf(context.lever(spec.lever));
    const values = heldValues(spec, context);
    return source && values.length ? keepValues(source, values) : null;
  },

  unfit(spec, by, lever, words) {
    const holder = lever(spec.lever);
    const source = sourceOf(holder);
    if (!holder) return null;
    if (!source) return `${holder.name} does not hold values of a field: marks cannot be compared with it.`;
    if (sameCut(source, by)) return null;
    return `${holder.name} holds ${cutText(source, words)}, and each mark here stands for ${cutText(by, words)}: it can filter this chart, not light it.`;
  },

  explain(spec, context, index, words) {
    const key = context.readings.category[index]!;
    if (key === null) return 'it has no value to look for';
    const held = heldValues(spec, context).includes(key);
    return `${words.key(key)} is ${held ? '' : 'not '}in ${words.lever(spec.lever)}`;
  },

  parts(spec, words) {
    const lever = words.lever(spec.lever);
    const source = sourceOf(lever);
    return [
      `whose ${source ? cutText(source, words) : 'value'} is in `,
      {
        slot: 'lever',
        path: ['lever'],
        text: lever?.name ?? spec.lever,
        value: spec.lever,
        ability: 'values',
      },
    ];
  },
};
