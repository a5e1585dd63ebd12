import { fieldOf } from '@sorvik/core/data/dataset';
import type { Kept } from '@sorvik/core/data/kept';
import { isNumeric, isTemporal, type KeyValue } from '@sorvik/core/data/values';
import { comparisonOps, type Expression } from '@sorvik/formula/expression';
import { fullEngine } from '@sorvik/formula/full-engine';
import { everyPart } from '@sorvik/formula/parts-of';
import type { Field } from '../../datasets/store';
import type { Question } from '../source';

type Fields = readonly Field[];

const typeOf = (fields: Fields, key: string) => fieldOf({ fields } as never, key.toLowerCase())?.type;

const compares: readonly string[] = [
  ...comparisonOps,
  'AND',
  'OR',
  'IS DISTINCT FROM',
  'IS NOT DISTINCT FROM',
];
const calculates: readonly string[] = ['+', '-', '*'];

/** Whether a part of an expression means in the column store what it means in PostgreSQL. */
function isExact(part: Expression, fields: Fields, calculated: boolean): boolean {
  switch (part.kind) {
    case 'value':
      return (
        part.type === 'number' || part.type === 'text' || part.type === 'boolean' || part.type === 'date'
      );
    case 'name':
      return calculated ? isNumeric(typeOf(fields, part.name) ?? 'text') : true;
    case 'unary':
      return part.op === 'NOT' ? !calculated : calculated || part.of.kind === 'value';
    case 'binary':
      return (calculated ? calculates : compares).includes(part.op);
    case 'isNull':
    case 'between':
    case 'in':
    // What a rule knows of whoever asks.
    case 'lever':
    case 'anyOf':
      return !calculated;
    default:
      return false;
  }
}

const isExactThroughout = (text: string, fields: Fields, calculated: boolean): boolean => {
  const parsed = fullEngine.parse(text);
  return parsed.ok && [...everyPart(parsed.expression)].every((part) => isExact(part, fields, calculated));
};

/** Whether a rule keeps the same rows in the column store as in PostgreSQL. */
export const isExactRule = (rule: string, fields: Fields): boolean => isExactThroughout(rule, fields, false);

/** COUNT(DISTINCT field): of what is asked as a whole, the one that is whole figures. */
function isCountOfField(text: string): boolean {
  const parsed = fullEngine.parse(text);
  if (!parsed.ok || parsed.expression.kind !== 'call') return false;
  const { name, distinct, args, filter, within, over } = parsed.expression;
  return (
    name === 'COUNT' &&
    distinct === true &&
    args.length === 1 &&
    args[0]!.kind === 'name' &&
    !filter &&
    !within &&
    !over
  );
}

const isDay = (value: KeyValue) => typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value);

/** Whether what is kept is of the type of its field: PostgreSQL says what is wrong with what is not. */
function fits(kept: Kept, fields: Fields): boolean {
  const type = kept.grain ? 'date' : typeOf(fields, kept.field);
  const one = (value: KeyValue): boolean => {
    if (type === 'text') return typeof value === 'string';
    if (type === 'boolean') return typeof value === 'boolean';
    if (type === 'integer') return Number.isSafeInteger(value);
    if (type === 'decimal') return typeof value === 'number';
    return type === 'date' && isDay(value);
  };
  return (kept.values ?? []).every(one) && (kept.ranges ?? []).flat().every(one);
}

/**
 * Whether the column store answers a question just as PostgreSQL does. Arithmetic is only taken where a figure without a
 * result shows in the answer: PostgreSQL has none there, the column store an infinite one.
 */
export const answersExactly = ({ partials, kept }: Question, fields: Fields): boolean =>
  kept.every((each) => fits(each, fields)) &&
  partials.every(({ aggregate, field, of, where }) => {
    if (aggregate === 'nonAdditive') return isCountOfField(of!);
    if (where !== undefined && !isExactThroughout(where, fields, false)) return false;
    if (of !== undefined) return aggregate !== 'count' && isExactThroughout(of, fields, true);
    return field === undefined || aggregate === 'count' || !isTemporal(typeOf(fields, field) ?? 'text');
  });
