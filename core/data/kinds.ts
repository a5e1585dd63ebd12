/** Anything that comes in kinds: one module per kind, all of one shape, found by its name. */
export interface Kind {
  readonly kind: string;
}

export interface Registry<K extends Kind> {
  get(kind: string): K;
  has(kind: unknown): boolean;
  names(): string[];
  all(): K[];
}

/** Kinds are fixed when the program is built; asking for an unknown one is a programming error. */
export function registryOf<K extends Kind>(what: string, kinds: readonly K[]): Registry<K> {
  const byName = new Map(kinds.map((kind) => [kind.kind, kind]));
  return {
    get(name) {
      const found = byName.get(name);
      if (!found)
        throw new Error(`There is no ${what} of kind "${name}"; there are ${[...byName.keys()].join(', ')}.`);
      return found;
    },
    has: (name) => typeof name === 'string' && byName.has(name),
    names: () => [...byName.keys()],
    all: () => [...byName.values()],
  };
}
