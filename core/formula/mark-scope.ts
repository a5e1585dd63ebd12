import type { Measure } from '../board/measure';
import type { LeverLookup, MarkKeys } from '../conditions/condition-kind';
import type { Readings } from '../cube/readings';
import type { FieldCut } from '../grain';
import { kindOf, type Lever } from '../levers/registry';
import type { Stand } from '../levers/standing';
import type { Rows, Scope } from './compiled';
import type { Value, ValueType } from './expression';
import { leverIdOf, leverNameOf } from './lever-names';

/** What a lever gives to a formula. */
interface LeverGift {
  type: ValueType;
  list?: true;
  read(position: unknown): Value | readonly Value[];
}

const parts = { low: 'low', high: 'high', from: 'from', to: 'to' } as const;

/** What a part of a lever gives, by what the lever can do; a text says why it gives nothing. */
function giftOf(
  lever: Lever,
  part: string | undefined,
  typeOf: (cut: FieldCut) => ValueType,
): LeverGift | string {
  const kind = kindOf(lever);
  const { figures } = kind;
  if (figures) {
    const wanted = part ?? 'value';
    if (!figures.parts.includes(wanted))
      return part
        ? `:${leverNameOf(lever.id)} has ${figures.parts.map((each) => `.${each}`).join(' and ')}, not .${part}.`
        : `:${leverNameOf(lever.id)} holds two figures: write :${leverNameOf(lever.id)}.${figures.parts[0]} or .${figures.parts.at(-1)}.`;
    return {
      type: 'number',
      read: (position) => (position === undefined ? null : figures.read(position, wanted)),
    };
  }
  const source = kind.source?.(lever);
  if (kind.interval && source) {
    const end = part === parts.from || part === parts.to ? part : undefined;
    if (!end) return `:${leverNameOf(lever.id)} is a stretch: write :${leverNameOf(lever.id)}.from or .to.`;
    return {
      type: typeOf(source),
      read: (position) => (kind.interval!(lever, position)?.[end] ?? null) as Value,
    };
  }
  if (part) return `:${leverNameOf(lever.id)} has no parts.`;
  if (kind.isOn) return { type: 'boolean', read: (position) => kind.isOn!(position) };
  if (kind.values && source)
    return {
      type: typeOf(source),
      list: true,
      read: (position) => (kind.values!(position) ?? []) as Value[],
    };
  return `:${leverNameOf(lever.id)} gives nothing to a formula.`;
}

/** What a mark formula speaks of: the category, the series and the measure of a reading, by the names of their fields. */
export interface MarkNames extends MarkKeys {
  measure?: Measure | undefined;
  typeOf(cut: FieldCut): ValueType;
  lever: LeverLookup;
  levers?: readonly Lever[];
}

const own = 'value';

/** The names that mean something in a mark formula. */
export function markScope({ by, split, measure, typeOf, lever, levers = [] }: MarkNames): Scope {
  const columns = new Map<string, { ref: string; type: ValueType }>([[own, { ref: own, type: 'number' }]]);
  if (measure?.field) columns.set(measure.field, { ref: own, type: 'number' });
  columns.set(by.field, { ref: 'by', type: typeOf(by) });
  if (split) columns.set(split.field, { ref: 'split', type: typeOf(split) });
  return {
    column: (name) => columns.get(name) ?? columns.get(name.toLowerCase()),
    names: () => [...columns.keys()],
    lever(name, part) {
      const found = lever(leverIdOf(name));
      return found ? giftOf(found, part, typeOf) : `There is no lever :${name}.`;
    },
    levers: () => levers.map(({ id }) => leverNameOf(id)),
    windows: true,
  };
}

/** The readings of a chart as the rows of a formula. */
export function markRows(
  readings: Readings,
  names: Pick<MarkNames, 'lever' | 'typeOf'>,
  stand: Stand,
  today: string,
): Rows {
  const columns: Record<string, (index: number) => Value> = {
    value: (i) => (Number.isNaN(readings.value[i]!) ? null : readings.value[i]!),
    by: (i) => readings.category[i]!,
    split: (i) => readings.series[readings.seriesOf[i]!] ?? null,
  };
  return {
    length: readings.length,
    column: (ref) => columns[ref]!,
    lever(name, part) {
      const lever = names.lever(leverIdOf(name));
      const gift = lever && giftOf(lever, part, names.typeOf);
      return !gift || typeof gift === 'string' ? null : gift.read(stand(lever.id));
    },
    today,
  };
}
