import { readRowRule } from '@sorvik/core/data/row-rule';
import { fullEngine } from '@sorvik/formula/full-engine';
import { rowPrinter } from '../datasets/lay-out';
import type { Field } from '../datasets/store';

/** Which rows of a dataset are for whoever asks: its rule, and what that asks of them. */
export interface Restriction {
  rule: string;
  email: string | null;
  groups: readonly string[];
}

/** Tells restrictions apart by what they do: people whom a rule treats alike share an answer. */
export function scopeOf(restriction: Restriction | null, fields: readonly Field[]): string {
  if (!restriction) return '';
  const { rule, email, groups } = restriction;
  const read = readRowRule(rule, fields, fullEngine);
  const names = read.ok ? read.names : [];
  return JSON.stringify([
    rule,
    names.includes('person_email') ? email : null,
    names.includes('person_groups') ? [...groups].sort() : null,
  ]);
}

/** What rows are selected from, as SQL; it puts values of its own into those of the statement. */
export type From = (values: unknown[]) => string;

/**
 * A table, or of it the rows that are for whoever asks. Of a rule that cannot be read, as when a field that it names has gone,
 * no row is for anybody. `guarded`: a rule without a result for a row is not true of it.
 */
export const allowedRows =
  (table: string, restriction: Restriction | null, fields: readonly Field[], guarded: boolean): From =>
  (values) => {
    if (!restriction) return table;
    const { rule, email, groups } = restriction;
    const read = readRowRule(rule, fields, fullEngine);
    if (!read.ok) return `(SELECT * FROM ${table} WHERE false) AS allowed`;
    const printer = {
      ...rowPrinter(fields, values, guarded),
      lever: (name: string) => (name === 'person_email' ? email : groups),
    };
    return `(SELECT * FROM ${table} WHERE ${read.compiled.sql(printer)}) AS allowed`;
  };
