import { LRUCache } from 'lru-cache';
import type { Changes } from './changes';

/**
 * What was looked up, by its name, until something changes in the tables that it came from. What changes while it is looked up is not
 * missed: then it is not remembered. Nothing is while changes are not heard of.
 */
export class Remembered<V extends object> {
  private readonly known: LRUCache<string, V>;
  private readonly keeps: (value: V) => boolean;
  private state = 0;

  /** `ttl`: it is looked up again after so long at the latest, ms. `keeps`: what else changes by itself is not remembered. */
  constructor(
    private readonly changes: Changes,
    tables: readonly string[],
    { keeps = () => true, ...options }: { max: number; ttl?: number; keeps?: (value: V) => boolean },
  ) {
    this.keeps = keeps;
    this.known = new LRUCache<string, V>(options);
    changes.on(() => this.forget(), tables);
  }

  /** Gives what is known, or looks it up; nothing where there is none. */
  async of(name: string, find: () => Promise<V | null>): Promise<V | null> {
    const known = this.changes.listening ? this.known.get(name) : undefined;
    if (known) return known;
    const before = this.state;
    const found = await find();
    if (found && this.state === before && this.keeps(found)) this.known.set(name, found);
    return found;
  }

  forget(): void {
    this.state++;
    this.known.clear();
  }
}

/** What is remembered of each database, made for it when it is first asked for. */
export function rememberedOf<V extends object>(
  tables: readonly string[],
  options: { max: number },
): (of: { changes: Changes }) => Remembered<V> {
  const known = new WeakMap<object, Remembered<V>>();
  return (of) => {
    const found = known.get(of) ?? new Remembered<V>(of.changes, tables, options);
    known.set(of, found);
    return found;
  };
}
