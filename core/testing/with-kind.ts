import { vi } from 'vitest';
import type { Kind, Registry } from '../data/kinds';

/** Does something while a registry has one more kind, as it would have after a line is added to its list. */
export function withKind<K extends Kind, T>(registry: Registry<K>, kind: K, work: () => T): T {
  const { get, has, all, names } = registry;
  const more = [
    vi.spyOn(registry, 'get').mockImplementation((name) => (name === kind.kind ? kind : get(name))),
    vi.spyOn(registry, 'has').mockImplementation((name) => name === kind.kind || has(name)),
    vi.spyOn(registry, 'all').mockImplementation(() => [...all(), kind]),
    vi.spyOn(registry, 'names').mockImplementation(() => [...names(), kind.kind]),
  ];
  try {
    return work();
  } finally {
    for (const each of more) each.mockRestore();
  }
}
