import { useSyncExternalStore } from 'react';

/** The words that are Sorvik's own, each in one sentence for whoever meets it first. */
export const ownWords = {
  board: 'A board is one page of charts, and of what viewers move to make them answer.',
  lever: 'A lever is anything a viewer moves: a list, a slider, a date range. Charts answer it at once.',
  sentences: 'Sentences say what a chart shows and what lights up. Press a word to change it.',
  workings: 'Workings show each step from the rows to what is lit, in figures.',
  wiring: 'Wiring shows which lever reaches which chart, and what it does there.',
  moment: 'A moment keeps where all levers are, with a caption: step through moments to tell a story.',
  muted: 'Marks that nothing lights stay where they are, muted: pale, so that you can compare.',
  show: 'The show is published: charts and levers, and nothing of the bench.',
} as const;
export type OwnWord = keyof typeof ownWords;

const place = 'sorvik known words';
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
