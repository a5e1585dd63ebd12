/** What a property of a class holds: objects of a class, or specs of the kinds of a sort. */
export interface Nested {
  type?: () => new () => object;
  sort?: string;
  /** A list of them. */
  each?: boolean;
  /** It names a kind, and holds no spec of one. */
  named?: true;
}

/** A property that holds specs of the kinds of a sort, or names one. */
export interface KindProperty extends Nested {
  owner: object;
  property: string;
  sort: string;
}

/** All properties that hold or name kinds, in the order in which their classes were made. */
export const kindProperties: KindProperty[] = [];

const known = new WeakMap<object, Map<string, Nested>>();

/** Remembers what the property of a class holds, for looking at a document before it is made into instances. */
export function nests(target: object, property: string, nested: Nested): void {
  const own = known.get(target) ?? new Map<string, Nested>();
  known.set(target, own);
  own.set(property, nested);
  const { sort } = nested;
  if (sort !== undefined) kindProperties.push({ ...nested, sort, owner: target.constructor, property });
}

/** What a property of a class, or of one that it extends, holds; undefined for plain values. */
export function nestedIn(Class: new () => object, property: string): Nested | undefined {
  for (
    let at: object | null = Class.prototype as object;
    at;
    at = Object.getPrototypeOf(at) as object | null
  ) {
    const found = known.get(at)?.get(property);
    if (found) return found;
  }
  return undefined;
}
