import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import { ValidateBy, ValidateNested } from 'class-validator';
import { nests } from './nested';

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * The property is one object of a class (or, with `each`, a list of such objects), validated by that class. A list
 * where an object belongs is refused: nested validation alone would look through it.
 */
export function Part(type: () => new () => object, each = false): PropertyDecorator {
  const decorators = [
    Type(type),
    ValidateNested({ each }),
    ValidateBy({
      name: 'isPart',
      validator: {
        validate: (value) => (each ? Array.isArray(value) && value.every(isRecord) : isRecord(value)),
        defaultMessage: (args) =>
          tell('check.part', { property: String(args?.property), each: each ? 'yes' : 'no' }),
      },
    }),
  ];
  return (target, property) => {
    nests(target, property as string, { type });
    for (const decorate of decorators) decorate(target, property as string);
  };
}
