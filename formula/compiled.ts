import type { At, Expression, Value, ValueType } from './expression';
import { tell } from './tell';

/** The rows that a formula is computed over: those of a table, or a chart's readings. */
export interface Rows {
  length: number;
  /** A column by the name that the scope gave it. */
  column(ref: string): (index: number) => Value;
  /** What a lever holds; a list for one that holds several values. */
  lever(name: string, part?: string): Value | readonly Value[];
  /** The day that is today, `YYYY-MM-DD`. */
  today: string;
}

/** Writes a formula as SQL: values only as parameters, names only as they exist. */
export interface SqlPrinter {
  /** A parameter of a type; returns its place, with a cast. */
  value(value: Value, type: ValueType | 'null'): string;
  list(values: readonly Value[], type: ValueType): string;
  column(ref: string): string;
  lever(name: string, part?: string): Value | readonly Value[];
  /**
   * Written so that what has no result, because it is too large or a pattern is none, is null. That takes several times
   * as long, so it is for when the database has refused the formula as it is.
   */
  guarded?: true;
}

/** A checked formula with one meaning for two targets. */
export interface Compiled {
  type: ValueType | 'null';
  /** Of numbers: none has decimals, whatever the rows hold. */
  whole?: boolean;
  /** Prepares it for some rows; the value of each is asked for by its index. */
  run(rows: Rows): (index: number) => Value;
  sql(printer: SqlPrinter): string;
}

export type AggregateCall = Extract<Expression, { kind: 'call' }>;

/** What names mean where a formula stands. */
export interface Scope {
  /** A column by its name; undefined when there is none. */
  column(name: string): { ref: string; type: ValueType; whole?: boolean } | undefined;
  names(): string[];
  /** Why a name that there is cannot stand by itself here. */
  whyNot?(name: string): string | undefined;
  /** What a lever gives: its type, whether it is a list; a text says why it gives nothing. */
  lever(name: string, part?: string): { type: ValueType; list?: true } | string;
  levers(): string[];
  /** An aggregate of the rows behind a reading, as a column; throws a `FormulaError` where there is none. */
  aggregate?(call: AggregateCall): { ref: string; type: ValueType };
  /** Windows over other rows can be used. */
  windows: boolean;
}

/** What levers mean where a formula stands. */
export type LeverScope = Pick<Scope, 'lever' | 'levers'>;

/** What names mean where a row stands by itself: the fields of its table. */
export interface FieldScope extends Scope {
  /** What a field is called, and whether it holds numbers. */
  field(name: string): { name: string; numeric: boolean } | undefined;
}

/** Where a part of a formula is compiled: what names mean there, and how the parts it is made of are compiled. */
export interface Compiling {
  scope: Scope;
  of(part: Expression): Compiled;
}

/** What is wrong with a formula that could be read. */
export class FormulaError extends Error {
  constructor(
    message: string,
    readonly at: At,
  ) {
    super(message);
  }
}

export const sqlTypes: Record<ValueType | 'null', string> = {
  number: 'double precision',
  text: 'text',
  boolean: 'boolean',
  date: 'date',
  datetime: 'timestamp',
  null: 'text',
};

/** What a type is called: "a date with time". */
export const typeName = (type: ValueType | 'null'): string => tell('type', { type });
