import { type Compiled, FormulaError, sqlTypes } from './compiled';
import type { At, Expression, Value, ValueType } from './expression';
import { tell } from './tell';

export type Type = ValueType | 'null';

/** Where a part of a formula stands, and what it becomes. */
export interface Placed {
  compiled: Compiled;
  at: At;
}

/** Gives a part its meaning, with its place. */
export const placed = (part: Expression, of: (part: Expression) => Compiled): Placed => ({
  compiled: of(part),
  at: part,
});

export const isTime = (type: Type) => type === 'date' || type === 'datetime';
export const fits = (type: Type, wanted: Type) => type === wanted || type === 'null' || wanted === 'null';

/** What a message speaks of: "What follows NOT", "What ROUND takes". */
export interface Spoken {
  place: 'before' | 'after' | 'takes' | 'gives' | 'compares' | 'pattern' | 'compared';
  of?: string;
}
export const spoken = ({ place, of = '' }: Spoken) => ({ place, of });

export const must = (compiled: Compiled, wanted: ValueType, at: At, what: Spoken): Compiled => {
  if (!fits(compiled.type, wanted))
    throw new FormulaError(tell('type.other', { ...spoken(what), wanted, is: compiled.type }), at);
  return compiled.type === 'null' ? typedNull(wanted) : compiled;
};

export const typedNull = (type: Type): Compiled => ({
  type,
  run: () => () => null,
  sql: () => `NULL::${sqlTypes[type]}`,
});

/** A value of each row from those of others, where none of them is null. */
export const strict = (
  type: Type,
  parts: readonly Compiled[],
  apply: (...args: never[]) => Value,
  sql: (...args: string[]) => string,
  { whole = false, guarded = sql }: { whole?: boolean; guarded?: typeof sql } = {},
): Compiled => ({
  type,
  whole,
  run(rows) {
    const reads = parts.map((part) => part.run(rows));
    if (reads.length === 1) {
      const [only] = reads;
      return (i) => {
        const value = only!(i);
        return value === null ? null : apply(value as never);
      };
    }
    if (reads.length === 2) {
      const [first, second] = reads;
      return (i) => {
        const a = first!(i);
        if (a === null) return null;
        const b = second!(i);
        return b === null ? null : apply(a as never, b as never);
      };
    }
    return (i) => {
      const args = reads.map((read) => read(i));
      return args.includes(null) ? null : apply(...(args as never[]));
    };
  },
  sql: (printer) => (printer.guarded ? guarded : sql)(...parts.map((part) => `(${part.sql(printer)})`)),
});

/** Whether all of some parts are whole numbers; a null is none of any sort. */
export const allWhole = (parts: readonly Compiled[]): boolean =>
  parts.every(({ whole, type }) => whole === true || type === 'null') && parts.some(({ whole }) => whole);

/** Texts are compared by their code points, whatever the database is set to. */
export const inOrder = (type: Type, sql: string) => (type === 'text' ? `${sql} COLLATE "C"` : sql);
