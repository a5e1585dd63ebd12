import { ValidateBy, ValidateIf, type ValidationArguments, type ValidationOptions } from 'class-validator';
import { dateText } from '../data/periods';
import type { Slots } from '../messages/catalogue';
import { type DeskMessage, tell } from '../messages/desk';

/** A JSON Schema, or a part of one. */
export type Schema = Record<string, unknown>;

interface OwnValidator {
  name: string;
  validate(value: unknown): boolean;
  /** Says what the property must be: "date must be a date that exists: 2021-05-01". */
  message: DeskMessage;
  /** What the message says besides the name of the property. */
  slots?(): Slots;
  /** The same as a JSON Schema: it takes what `validate` takes, and nothing else. */
  schema: Schema;
}

/** The schemas of validators of our own, by their names: whoever publishes the schema of a document reads them here. */
export const ownSchemas: Record<string, Schema> = {};

/** A validator of our own, with the JSON Schema that says the same. */
export function Own(
  { name, validate, message, slots, schema }: OwnValidator,
  options?: ValidationOptions,
): PropertyDecorator {
  ownSchemas[name] = schema;
  const defaultMessage = (args?: ValidationArguments) =>
    tell(message, { property: String(args?.property), ...slots?.() });
  return ValidateBy({ name, validator: { validate, defaultMessage } }, options);
}

/** The property can be left out; null is not the same as that. */
export const IsOptional = (): PropertyDecorator => ValidateIf((_object, value) => value !== undefined);

/** What of a class the schemas of its properties do not say, by the prototype of the class. */
export const classRules = new Map<object, Schema[]>();

function addRule(target: object, rule: Schema): void {
  classRules.set(target, [...(classRules.get(target) ?? []), rule]);
}

/** The property can be left out, except where another one is one of some values. */
export const RequiredWhen =
  (other: string, values: readonly string[]): PropertyDecorator =>
  (target, property) => {
    const needed = (object: object) => values.includes((object as Record<string, never>)[other]!);
    ValidateIf((object, value) => value !== undefined || needed(object))(target, property);
    addRule(target, {
      if: { properties: { [other]: { enum: [...values] } }, required: [other] },
      // biome-ignore lint/suspicious/noThenProperty: it is the word of JSON Schema
      then: { required: [property] },
    });
  };

/** The property can be left out, except where another one is there, or, the other way round, is not. */
export const RequiredWith =
  (other: string, there = true): PropertyDecorator =>
  (target, property) => {
    const needed = (object: object) => ((object as Record<string, unknown>)[other] !== undefined) === there;
    ValidateIf((object, value) => value !== undefined || needed(object))(target, property);
    const has = { required: [other] };
    // biome-ignore lint/suspicious/noThenProperty: it is the word of JSON Schema
    addRule(target, { if: there ? has : { not: has }, then: { required: [property] } });
  };

/** An object with some properties, and no others. */
export const closedObject = (
  properties: Record<string, Schema>,
  required = Object.keys(properties),
): Schema => ({
  type: 'object',
  properties,
  required,
  additionalProperties: false,
});

/** A date of the calendar. */
export const dateSchema: Schema = { type: 'string', pattern: dateText.source };

export const oneOf = (...values: readonly (string | null)[]): Schema => ({ enum: values });
