import { IsIn } from 'class-validator';
import { IsId } from '../board/id';
import type { FieldInfo } from '../data/dataset';
import { type Dimension, isWider, sameDimension } from '../data/dimension';
import { isDateText, periodStart } from '../data/periods';
import type { KeyValue } from '../data/values';
import type { LeverContext, LeverSource } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { tell } from '../messages/desk';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { dimensionText, keysText } from '../words/dimension-text';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import { sentenceParts } from '../words/sentence';
import {
  type Claim,
  type ConditionContext,
  type ConditionKind,
  type MarkKeys,
  verdicts,
} from './condition-kind';
import { keepValues } from './keep-values';

/**
 * Met by marks whose category, or series, a lever holds: is in a pick, or equals a choice. A lever of wider periods holds
 * those that begin in them: a year its months. A lever of another field of the same rows holds the categories all of whose
 * rows it holds: a region its quays. Equality is on the value, never on the text shown; null is in nothing.
 */
export class MemberCondition {
  @IsIn(['member'])
  kind!: 'member';

  @IsId()
  lever!: string;
}

const sourceOf = (lever: Lever | undefined): LeverSource | undefined =>
  lever && kindOf(lever).source?.(lever);

/**
 * What of a mark is looked for among the values held: its category, or its series; else the wider period that its category
 * lies in; else what another field has in its rows.
 */
type Meant = 'category' | 'series' | 'period' | 'rows';

function keysMeant(source: LeverSource | undefined, { by, split, dataset }: MarkKeys): Meant | null {
  if (!source) return null;
  if (sameDimension(source, by)) return 'category';
  if (split && sameDimension(source, split)) return 'series';
  if (isWider(source, by)) return 'period';
  return source.field !== by.field && source.dataset === dataset ? 'rows' : null;
}

/** A period has rows of everything: it is looked up only by what is computed from dates themselves, as weekdays are. */
const canLookUp = (meant: Meant | null, { by }: MarkKeys, field: FieldInfo | undefined): boolean =>
  meant !== null && !(meant === 'rows' && by.grain !== undefined && field?.formula === undefined);

/** Per place what is looked for among the values held: all of it has to be there. */
function meantAt(
  meant: Meant,
  source: LeverSource,
  context: ConditionContext,
): (place: number) => readonly KeyValue[] {
  const { places, series } = context.readings;
  if (meant === 'series') return (s) => [series[s]!];
  if (meant === 'category') return (place) => [places[place]!];
  if (meant === 'rows') {
    const groups = context.groupsOf?.(source);
    // Where figures are asked for as wholes, rows are not known by other fields.
    return (place) => groups?.[place] ?? [];
  }
  return (place) => {
    const value = places[place]!;
    return [typeof value === 'string' && isDateText(value) ? periodStart(value, source.grain!) : null];
  };
}

/** A missing value is in nothing; of several, none may be missing or left out. */
const verdictOn = (keys: readonly KeyValue[], held: ReadonlySet<KeyValue>): number =>
  keys.every((key) => key === null)
    ? verdicts.unknown
    : keys.every((key) => key !== null && held.has(key))
      ? verdicts.yes
      : verdicts.no;

function heldValues(spec: MemberCondition, { lever, positionOf }: LeverContext): readonly KeyValue[] {
  const source = lever(spec.lever);
  const position = positionOf(spec.lever);
  return source && position !== undefined ? (kindOf(source).values?.(position) ?? []) : [];
}

interface MemberClaim extends Claim {
  key: KeyValue;
  of: Meant;
  /** What was looked for, where that is neither the category nor the series itself. */
  wider?: { of: Dimension; values: readonly KeyValue[] };
  lever: string;
}

export const member: ConditionKind<MemberCondition, MemberClaim> = {
  kind: 'member',
  Spec: MemberCondition,
  levers: (spec) => [spec.lever],
  needs: (spec) => [{ lever: spec.lever, ability: 'values' }],
  usual: { text: () => tell('member.usual'), make: (need) => ({ kind: 'member', lever: need('values') }) },
  restText: (locale) => say(locale, 'rest.member'),

  evaluate(spec, context) {
    const { readings } = context;
    const verdict = new Uint8Array(readings.length);
    const source = sourceOf(context.lever(spec.lever));
    const meant = keysMeant(source, context);
    const field = context.fields?.find(({ key }) => key === source?.field);
    if (!source || !meant || !canLookUp(meant, context, field)) return { active: false, verdict };
    const held = new Set(heldValues(spec, context));
    if (held.size === 0) return { active: false, verdict };
    const series = meant === 'series';
    const keysAt = meantAt(meant, source, context);
    // Each key is looked up once, however many readings carry it.
    const known = Uint8Array.from(series ? readings.series : readings.places, (_, at) =>
      verdictOn(keysAt(at), held),
    );
    const keyOf = series ? readings.seriesOf : readings.place;
    for (let i = 0; i < verdict.length; i++) verdict[i] = known[keyOf[i]!]!;
    const mixed = meant === 'rows' && readings.places.every((_, place) => keysAt(place).length > 1);
    return {
      active: true,
      verdict,
      ...(mixed ? { note: (locale: Locale) => say(locale, 'note.mixed') } : {}),
    };
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
    if (!source) return tell('member.noValues', { lever: holder.name });
    if (canLookUp(keysMeant(source, keys), keys, words.field(source.field))) return null;
    return tell('member.other', {
      lever: holder.name,
      holds: dimensionText(source, words),
      shown: keysText(keys, words),
    });
  },

  groups(spec, keys, lever) {
    const source = sourceOf(lever(spec.lever));
    return source && keysMeant(source, keys) === 'rows' ? [{ field: source.field, grain: source.grain }] : [];
  },

  claim(spec, context, index) {
    const { readings } = context;
    const source = sourceOf(context.lever(spec.lever));
    const of = keysMeant(source, context) ?? 'category';
    const at = of === 'series' ? readings.seriesOf[index]! : readings.place[index]!;
    const key = of === 'series' ? readings.series[at]! : readings.category[index]!;
    const looked = source ? meantAt(of, source, context)(at) : [key];
    return {
      says: 'member',
      verdict: verdictOn(looked, new Set(heldValues(spec, context))),
      key,
      of,
      ...(source && (of === 'period' || of === 'rows')
        ? { wider: { of: { field: source.field, grain: source.grain }, values: looked } }
        : {}),
      lever: spec.lever,
    };
  },

  claimText({ verdict, key: value, of, wider, lever: id }, words) {
    const { locale } = words;
    if (verdict === verdicts.unknown)
      return say(locale, wider?.values.length === 0 ? 'claim.ownersLoad' : 'claim.noKey');
    const key = words.key(value, of === 'series' ? of : undefined);
    const [is, lever] = [verdict === verdicts.yes ? 'yes' : 'no', words.lever(id)];
    if (!wider) return say(locale, 'claim.member', { key, is, lever });
    const owners = wider.values.map((each) => words.key(each, wider.of));
    return owners.length === 1
      ? say(locale, 'claim.memberOf', { key, owner: owners[0]!, is, lever })
      : say(locale, 'claim.memberOfSeveral', { key, owners: listed(owners, locale, 3), is, lever });
  },

  legend(spec, context, words) {
    const lever = words.lever(spec.lever);
    const type = lever && words.field(sourceOf(lever)?.field ?? '')?.type;
    const texts = heldValues(spec, context).map((value) =>
      keyText(value, words.locale, type, sourceOf(lever)?.grain),
    );
    return [
      texts.length > 2
        ? `${lever?.name ?? spec.lever}: ${words.locale.count(texts.length)}`
        : listed(texts, words.locale),
    ];
  },

  parts(spec, words) {
    const lever = words.lever(spec.lever);
    const source = sourceOf(lever);
    return sentenceParts('member', {
      known: source ? 'yes' : 'no',
      dimension: source ? dimensionText(source, words) : '',
      lever: {
        slot: 'lever',
        path: ['lever'],
        text: lever?.name ?? spec.lever,
        value: spec.lever,
        ability: 'values',
      },
    });
  },
};
