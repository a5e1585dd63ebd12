import { IsIn } from 'class-validator';
import { IsId } from '../board/id';
import { sameDimension } from '../data/dimension';
import type { KeyValue } from '../data/values';
import type { LeverContext, LeverSource } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { dimensionText, keysText } from '../words/dimension-text';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import { type Claim, type ConditionKind, type MarkKeys, verdicts } from './condition-kind';
import { keepValues } from './keep-values';

/**
 * Met by marks whose category, or series, a lever holds: is in a pick, or equals a choice. Equality is on the value,
 * never on the text shown; null is in nothing.
 */
export class MemberCondition {
  @IsIn(['member'])
  kind!: 'member';

  @IsId()
  lever!: string;
}

const sourceOf = (lever: Lever | undefined): LeverSource | undefined =>
  lever && kindOf(lever).source?.(lever);

/** What of a mark is looked for among the values held: its category, or else its series. */
function keysMeant(source: LeverSource | undefined, { by, split }: MarkKeys): 'category' | 'series' | null {
  if (!source) return null;
  if (sameDimension(source, by)) return 'category';
  return split && sameDimension(source, split) ? 'series' : null;
}

function heldValues(spec: MemberCondition, { lever, positionOf }: LeverContext): readonly KeyValue[] {
  const source = lever(spec.lever);
  const position = positionOf(spec.lever);
  return source && position !== undefined ? (kindOf(source).values?.(position) ?? []) : [];
}

interface MemberClaim extends Claim {
  key: KeyValue;
  of: 'category' | 'series';
  lever: string;
}

export const member: ConditionKind<MemberCondition, MemberClaim> = {
  kind: 'member',
  Spec: MemberCondition,
  levers: (spec) => [spec.lever],
  needs: (spec) => [{ lever: spec.lever, ability: 'values' }],
  usual: { elsewhere: true, text: 'picked', make: (need) => ({ kind: 'member', lever: need('values') }) },
  restText: 'nothing is picked',

  evaluate(spec, context) {
    const { readings } = context;
    const verdict = new Uint8Array(readings.length);
    const meant = keysMeant(sourceOf(context.lever(spec.lever)), context);
    if (!meant) return { active: false, verdict };
    const held = new Set(heldValues(spec, context));
    if (held.size === 0) return { active: false, verdict };
    const series = meant === 'series';
    // Each key is looked up once, however many readings carry it.
    const known = Uint8Array.from(series ? readings.series : readings.places, (value) =>
      value === null ? verdicts.unknown : held.has(value) ? verdicts.yes : verdicts.no,
    );
    const keyOf = series ? readings.seriesOf : readings.place;
    for (let i = 0; i < verdict.length; i++) verdict[i] = known[keyOf[i]!]!;
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

  unfit(spec, keys, lever, words) {
    const holder = lever(spec.lever);
    const source = sourceOf(holder);
    if (!holder) return null;
    if (!source) return `${holder.name} does not hold values of a field: marks cannot be compared with it.`;
    if (keysMeant(source, keys)) return null;
    return `${holder.name} holds ${dimensionText(source, words)}, and each mark here stands for ${keysText(keys, words)}: it can filter this chart, not light it.`;
  },

  claim(spec, context, index) {
    const { readings } = context;
    const of = keysMeant(sourceOf(context.lever(spec.lever)), context) ?? 'category';
    const key = of === 'series' ? readings.series[readings.seriesOf[index]!]! : readings.category[index]!;
    const held = heldValues(spec, context).includes(key);
    const verdict = key === null ? verdicts.unknown : held ? verdicts.yes : verdicts.no;
    return { says: 'member', verdict, key, of, lever: spec.lever };
  },

  claimText({ verdict, key, of, lever }, words) {
    if (verdict === verdicts.unknown) return 'it has no value to look for';
    const text = words.key(key, of === 'series' ? of : undefined);
    return `${text} is ${verdict === verdicts.yes ? '' : 'not '}in ${words.lever(lever)}`;
  },

  legend(spec, context, words) {
    const lever = words.lever(spec.lever);
    const type = lever && words.field(sourceOf(lever)?.field ?? '')?.type;
    const texts = heldValues(spec, context).map((value) => keyText(value, type, sourceOf(lever)?.grain));
    return [texts.length > 2 ? `${lever?.name ?? spec.lever}: ${texts.length}` : listed(texts)];
  },

  parts(spec, words) {
    const lever = words.lever(spec.lever);
    const source = sourceOf(lever);
    return [
      `whose ${source ? dimensionText(source, words) : 'value'} is in `,
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
