import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { type ClassTransformOptions, plainToInstance, Transform } from 'class-transformer';
import { Allow, ValidateBy, ValidateNested } from 'class-validator';
import type { Kind, Registry } from '../data/kinds';
import { nests } from './nested';
import { isRecord } from './part';

/** A kind that brings the class its specs are validated against. */
export interface SpecKind extends Kind {
  Spec: new () => object;
}

type AnyKind = Kind & Partial<SpecKind>;

/** The kinds of each sort: `condition`, `lever`, `guide`, `form`. Whoever reads a document brings them. */
export type KindLookup = (sort: string) => Registry<AnyKind>;

const lookupIn = Symbol('kinds');
interface ReadOptions extends ClassTransformOptions {
  [lookupIn]?: KindLookup;
}

/** Makes instances of a class from plain values, and within them those of the kinds that they name. */
export const instanceOf = <T extends object>(Class: new () => T, plain: object, kinds: KindLookup): T =>
  plainToInstance(Class, plain, { [lookupIn]: kinds } as ReadOptions);

/** Stands in for what names a kind that is not registered, so that the error can say which there are. */
class UnknownKind {
  @Allow()
  kind: unknown;
  @Allow()
  names: readonly string[] = [];
}

const unknown = (kind: unknown, registry: Registry<AnyKind>): UnknownKind =>
  Object.assign(new UnknownKind(), { kind, names: registry.names() });

function registryIn(options: ReadOptions, sort: string): Registry<AnyKind> {
  const kinds = options[lookupIn];
  if (!kinds) throw new Error(`Nothing says which kinds of ${sort} there are: read it with instanceOf.`);
  return kinds(sort);
}

function instantiate(value: unknown, sort: string, options: ReadOptions): unknown {
  if (!isRecord(value)) return value;
  const registry = registryIn(options, sort);
  const Spec = registry.has(value.kind) ? registry.get(String(value.kind)).Spec : undefined;
  return Spec ? plainToInstance(Spec, value, options) : unknown(value.kind, registry);
}

const isKnown = (value: unknown) => isRecord(value) && !(value instanceof UnknownKind);
const namesIn = (value: unknown): string =>
  [value].flat().flatMap((each) => (each instanceof UnknownKind ? [each.names.join(', ')] : []))[0] ?? '';

/**
 * The property is one spec (or, with `each`, a list of specs) of the kinds of a sort, told apart by `kind`, each
 * validated by its own class. Which kinds there are is known to the registries alone.
 */
export function OfKind(sort: string, each = false): PropertyDecorator {
  const transform = Transform(({ value, options }) =>
    each && Array.isArray(value)
      ? value.map((item) => instantiate(item, sort, options))
      : instantiate(value, sort, options),
  );
  const check = ValidateBy({
    name: 'ofKind',
    validator: {
      validate: (value) => (each ? Array.isArray(value) && value.every(isKnown) : isKnown(value)),
      defaultMessage: (args) => {
        const names = namesIn(args?.value);
        return tell('check.kind', {
          property: String(args?.property),
          each: each ? 'yes' : 'no',
          known: names ? 'yes' : 'no',
          kinds: names,
        });
      },
    },
  });
  const nested = ValidateNested({ each });
  return (target, property) => {
    nests(target, property as string, { sort, each });
    for (const decorate of [transform, check, nested]) decorate(target, property as string);
  };
}

/** The property is the name of a kind of a sort. */
export function KindName(sort: string): PropertyDecorator {
  const transform = Transform(({ value, options }) => {
    const registry = registryIn(options, sort);
    return registry.has(value) ? value : unknown(value, registry);
  });
  const check = ValidateBy({
    name: 'kindName',
    validator: {
      validate: (value) => typeof value === 'string',
      defaultMessage: (args) =>
        tell('check.kindName', { property: String(args?.property), kinds: namesIn(args?.value) }),
    },
  });
  return (target, property) => {
    nests(target, property as string, { sort, named: true });
    for (const decorate of [transform, check]) decorate(target, property as string);
  };
}
