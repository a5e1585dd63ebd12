import 'reflect-metadata/lite';
import { plainToInstance, Transform } from 'class-transformer';
import { Allow, ValidateBy, ValidateNested } from 'class-validator';
import type { Kind, Registry } from '../kinds';
import { nests } from './nested';
import { isRecord } from './part';

/** A kind that brings the class its specs are validated against. */
export interface SpecKind extends Kind {
  Spec: new () => object;
}

/** Stands in for an object whose kind is not registered, so that it is named in the error. */
class UnknownKind {
  @Allow()
  kind: unknown;
}

function instantiate(registry: Registry<SpecKind>, value: unknown): unknown {
  if (!isRecord(value)) return value;
  if (registry.has(value.kind)) return plainToInstance(registry.get(String(value.kind)).Spec, value);
  return Object.assign(new UnknownKind(), { kind: value.kind });
}

/**
 * The property is one spec (or, with `each`, a list of specs) of the registered kinds, told apart by `kind`, each
 * validated by its own class. The registry is the only list of kinds there is; it is looked up late, since kinds can hold
 * others of their own sort.
 */
export function OfKind(kinds: () => Registry<SpecKind>, each = false): PropertyDecorator {
  const known = (value: unknown) => isRecord(value) && kinds().has(value.kind);
  const transform = Transform(({ value }) =>
    each && Array.isArray(value)
      ? value.map((item) => instantiate(kinds(), item))
      : instantiate(kinds(), value),
  );
  const check = ValidateBy({
    name: 'ofKind',
    validator: {
      validate: (value) => (each ? Array.isArray(value) && value.every(known) : known(value)),
      defaultMessage: (args) =>
        `${args?.property} must be ${each ? 'a list of objects' : 'an object'} whose kind is one of: ${kinds().names().join(', ')}`,
    },
  });
  const nested = ValidateNested({ each });
  return (target, property) => {
    nests(target, property as string, { kinds });
    for (const decorate of [transform, check, nested]) decorate(target, property as string);
  };
}
