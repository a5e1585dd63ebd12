/** What a property of a class holds: objects of a class, or specs of the kinds of a sort. */
export interface Nested {
  type?: () => new () => object;
  sort?: string;
}

const known = new WeakMap<object, Map<string, Nested>>();

/** Remembers what the property of a class holds, for looking at a document before it is made into instances. */
export function nests(target: object, property: string, nested: Nested): void {
  const own = known.get(target) ?? new Map<string, Nested>();
  known.set(target, own);
  own.set(property, nested);
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
