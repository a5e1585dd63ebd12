import { useSyncExternalStore } from 'react';

/** The words that are Sorvik's own. */
export type OwnWord = 'board' | 'lever' | 'sentences' | 'workings' | 'wiring' | 'moment' | 'muted' | 'show';

const place = 'sorvik-known-words';
const heard = new Set<() => void>();
let known: ReadonlySet<string> = read();

function read(): ReadonlySet<string> {
  try {
    return new Set(JSON.parse(localStorage.getItem(place) ?? '[]') as string[]);
  } catch {
    // Without a store every word is explained each time.
    return new Set();
  }
}

/** A word that was explained long enough to be read needs no explanation any more. */
export function learnt(word: OwnWord): void {
  known = new Set([...known, word]);
  try {
    localStorage.setItem(place, JSON.stringify([...known]));
  } catch {
    // Known until the page is left.
  }
  for (const hear of heard) hear();
}

const subscribe = (hear: () => void) => {
  heard.add(hear);
  return () => heard.delete(hear);
};

export const useIsKnown = (word: OwnWord): boolean => useSyncExternalStore(subscribe, () => known.has(word));
