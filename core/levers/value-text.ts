import type { ValidationOptions } from 'class-validator';
import { Own } from '../board/validation';
import type { KeyValue } from '../data/values';

/** A missing value cannot be held by a lever. */
export const isHoldable = (value: unknown): value is Exclude<KeyValue, null> =>
  (typeof value === 'string' && value.length <= 1000) || typeof value === 'boolean' || Number.isFinite(value);

export const holdableSchema = {
  anyOf: [{ type: 'string', maxLength: 1000 }, { type: ['number', 'boolean'] }],
};

export const IsHoldable = (options?: ValidationOptions) =>
  Own(
    {
      name: 'isHoldable',
      validate: isHoldable,
      message: 'check.holdable',
      schema: holdableSchema,
    },
    options,
  );

/** The type of a value must survive an address: text stands as it is, other types are marked. */
export const valueToText = (value: KeyValue): string =>
  typeof value === 'string'
    ? /^(is:|text:)/.test(value)
      ? `text:${value}`
      : value
    : `is:${JSON.stringify(value)}`;

/** The value an address names; undefined where the text cannot be read. */
export function valueFromText(text: string): KeyValue | undefined {
  if (text.startsWith('text:')) return text.slice(5);
  if (!text.startsWith('is:')) return text;
  try {
    const value: unknown = JSON.parse(text.slice(3));
    return isHoldable(value) && typeof value !== 'string' ? value : undefined;
  } catch {
    return undefined;
  }
}
