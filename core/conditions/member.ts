import { IsIn } from 'class-validator';
import { IsId } from '../board/id';
import { sameCut } from '../grain';
import type { PickPosition } from '../levers/pick';
import { positionOf } from '../levers/positions';
import { cutText } from '../words/cut-text';
import type { ConditionKind } from './condition-kind';

/** Met by marks whose category is in a pick. Equality is on the value, never on the text shown; null is in no pick. */
export class MemberCondition {
  @IsIn(['member'])
  kind!: 'member';

  @IsId()
  lever!: string;
}

export const member: ConditionKind<MemberCondition> = {
  kind: 'member',
  Spec: MemberCondition,
  levers: (spec) => [spec.lever],

  evaluate(spec, { readings, by, lever, positions }) {
    const lit = new Uint8Array(readings.length);
    const source = lever(spec.lever);
    if (!source || !sameCut(source, by)) return { active: false, lit };
    const held = new Set(positionOf(source, positions) as PickPosition);
    if (held.size === 0) return { active: false, lit };
    readings.category.forEach((value, i) => {
      if (value !== null && held.has(value)) lit[i] = 1;
    });
    return { active: true, lit };
  },

  filters(spec, lever) {
    const source = lever(spec.lever);
    return source ? { field: source.field, grain: source.grain } : null;
  },

  rowFilter(spec, { lever, positions }) {
    const source = lever(spec.lever);
    if (!source) return null;
    const values = positionOf(source, positions) as PickPosition;
    return values.length ? { field: source.field, grain: source.grain, values } : null;
  },

  unfit(spec, by, lever, words) {
    const source = lever(spec.lever);
    if (!source || sameCut(source, by)) return null;
    return `${source.name} picks ${cutText(source, words)}, and each mark here stands for ${cutText(by, words)}: it can filter this chart, not light it.`;
  },

  parts(spec, words) {
    const source = words.lever(spec.lever);
    return [
      `whose ${source ? cutText(source, words) : 'value'} is picked in `,
      { slot: 'lever', text: source?.name ?? spec.lever, value: spec.lever },
    ];
  },
};
