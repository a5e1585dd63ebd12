import type { Rows, Scope } from '@sorvik/formula/compiled';
import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Value, ValueType } from '@sorvik/formula/expression';
import { leverIdOf, leverNameOf } from '@sorvik/formula/lever-names';
import type { Dimension } from '../data/dimension';
import { tell } from '../messages/desk';
import { english } from '../messages/locale';
import { listed } from '../words/plural';
import type { LeverLookup, PositionLookup } from './lever-kind';
import { kindOf, type Lever } from './registry';
import { localText } from './zone-time';

/** The levers that a formula can name, and of what type the fields are whose values they hold. */
export interface LeverNames {
  /** What reads formulas; null until it is there. */
  engine: FormulaEngine | null;
  typeOf(dimension: Dimension): ValueType;
  lever: LeverLookup;
  levers?: readonly Lever[];
}

/** What a lever gives to a formula. */
interface LeverValue {
  type: ValueType;
  list?: true;
  read(position: unknown): Value | readonly Value[];
}

const parts = { low: 'low', high: 'high', from: 'from', to: 'to' } as const;

/** What a part of a lever gives, by what the lever can do; a text says why it gives nothing. */
function leverValue(
  lever: Lever,
  part: string | undefined,
  typeOf: (dimension: Dimension) => ValueType,
): LeverValue | string {
  const kind = kindOf(lever);
  const name = leverNameOf(lever.id);
  const { figures } = kind;
  if (figures) {
    const wanted = part ?? 'value';
    if (!figures.parts.includes(wanted))
      return part
        ? tell('leverFormula.otherPart', {
            lever: name,
            parts: listed(
              figures.parts.map((each) => `.${each}`),
              english,
            ),
            part,
          })
        : tell('leverFormula.twoValues', {
            lever: name,
            one: figures.parts[0]!,
            other: figures.parts.at(-1)!,
          });
    return {
      type: 'number',
      read: (position) => (position === undefined ? null : figures.read(position, wanted)),
    };
  }
  const source = kind.source?.(lever);
  if (kind.interval && source) {
    const end = part === parts.from || part === parts.to ? part : undefined;
    if (!end) return tell('leverFormula.range', { lever: name });
    return {
      type: typeOf(source),
      read: (position) => (kind.interval!(lever, position)?.[end] ?? null) as Value,
    };
  }
  if (part) return tell('leverFormula.noParts', { lever: name });
  if (kind.isOn) return { type: 'boolean', read: (position) => kind.isOn!(position) };
  // The clock stands in for the day or the time: DATE_TRUNC('day', :clock).
  if (kind.now)
    return {
      type: 'datetime',
      read: (position) => {
        const now = kind.now!(lever, position);
        return now ? localText(now.time) : null;
      },
    };
  if (kind.values && source)
    return {
      type: typeOf(source),
      list: true,
      read: (position) => (kind.values!(position) ?? []) as Value[],
    };
  return tell('leverFormula.unusable', { lever: name });
}

/** What a lever, or a part of it, holds for a formula at a position. */
export const heldBy = (lever: Lever, position: unknown, part?: string): Value | readonly Value[] => {
  const value = leverValue(lever, part, () => 'text');
  return typeof value === 'string' ? null : value.read(position);
};

/** What levers mean in a formula. */
export const leverScope = ({ lever, levers = [], typeOf }: LeverNames): Pick<Scope, 'lever' | 'levers'> => ({
  lever(name, part) {
    const found = lever(leverIdOf(name));
    return found ? leverValue(found, part, typeOf) : tell('leverFormula.unknown', { lever: name });
  },
  levers: () => levers.map(({ id }) => leverNameOf(id)),
});

/** What levers hold now, for the rows of a formula. */
export const leverReader =
  ({ lever, typeOf }: LeverNames, positionOf: PositionLookup): Rows['lever'] =>
  (name, part) => {
    const found = lever(leverIdOf(name));
    const value = found && leverValue(found, part, typeOf);
    return !value || typeof value === 'string' ? null : value.read(positionOf(found.id));
  };
