import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsNotEmpty,
  IsOptional,
  IsString,
  MaxLength,
  ValidateBy,
} from 'class-validator';
import { IsId } from '../board/id';
import { type Grain, grains } from '../grain';
import type { KeyValue } from '../values';
import { type Clearing, clearings, type LeverKind } from './lever-kind';

export type PickPosition = readonly KeyValue[];

const isPickable = (value: unknown) =>
  (typeof value === 'string' && value.length <= 1000) || typeof value === 'boolean' || Number.isFinite(value);

const ArePickable = () =>
  ValidateBy({
    name: 'arePickable',
    validator: {
      validate: (value) => Array.isArray(value) && value.every(isPickable),
      defaultMessage: (args) =>
        `${args?.property} must be a list of texts, numbers or booleans; a missing value cannot be picked`,
    },
  });

/** A set of values of a field, picked from a list or by touching marks. */
export class PickLever {
  @IsIn(['pick'])
  kind!: 'pick';

  @IsId()
  id!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(80)
  name!: string;

  @IsId()
  dataset!: string;

  @IsString()
  @MaxLength(63)
  field!: string;

  /** For a date field: the list holds its periods. */
  @IsOptional()
  @IsIn(grains)
  grain?: Grain;

  @IsArray()
  @ArrayMaxSize(10_000)
  @ArePickable()
  start!: KeyValue[];

  @IsIn(clearings)
  clearing!: Clearing;
}

/** The type of a value must survive an address: text stands as it is, other types are marked. */
const toText = (value: KeyValue) =>
  typeof value === 'string'
    ? /^(is:|text:)/.test(value)
      ? `text:${value}`
      : value
    : `is:${JSON.stringify(value)}`;

function fromText(text: string): KeyValue | undefined {
  if (text.startsWith('text:')) return text.slice(5);
  if (!text.startsWith('is:')) return text;
  try {
    const value: unknown = JSON.parse(text.slice(3));
    return isPickable(value) && typeof value !== 'string' ? (value as KeyValue) : undefined;
  } catch {
    return undefined;
  }
}

const unique = (values: readonly KeyValue[]) => [...new Set(values)];

export const pick: LeverKind<PickLever, PickPosition> = {
  kind: 'pick',
  Spec: PickLever,
  holdsValues: true,
  start: (spec) => spec.start,
  isEmpty: (position) => position.length === 0,
  same: (a, b) => a === b || (a.length === b.length && a.every((value) => b.includes(value))),
  clear: (spec, position) => ({ keep: position, start: spec.start, empty: [] })[spec.clearing],
  toQuery: (position) => (position.length ? position.map(toText) : ['']),
  fromQuery: (_spec, texts) =>
    unique(
      texts
        .filter((text) => text !== '')
        .map(fromText)
        .filter((value) => value !== undefined),
    ),
  settle(_spec, position, listed, text) {
    const known = new Set(listed.map((item) => item.value));
    const gone = position.filter((value) => !known.has(value));
    if (!gone.length) return { position };
    const named =
      gone.slice(0, 3).map(text).join(', ') + (gone.length > 3 ? ` and ${gone.length - 3} more` : '');
    return {
      position: position.filter((value) => known.has(value)),
      notice: `Not in the data, left out: ${named}.`,
    };
  },
  summary: (position, listed) => `${position.length} of ${listed}`,
};
