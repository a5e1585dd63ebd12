import { tell } from '../messages/desk';
import type { Sentence } from '../words/sentence';

/** What sentences of a chart are about, in the order in which they stand. */
const subjects = ['shown', 'lit', 'drawn', 'written', 'answered'] as const;
export type SentenceSubject = (typeof subjects)[number];

/** Sentences about one thing. */
export interface SentenceGroup {
  id: SentenceSubject;
  title: string;
  sentences: Sentence[];
}

/** So many sentences are taken in at a glance. */
const atAGlance = 8;

/** By the part of the chart that a sentence speaks of; the first sentence speaks of all of it. */
const byPart: Record<string, SentenceSubject> = {
  cues: 'lit',
  colours: 'lit',
  otherwise: 'lit',
  guides: 'drawn',
  touches: 'answered',
  figures: 'written',
  labels: 'written',
  beside: 'written',
  pointed: 'written',
  subtitle: 'written',
  legend: 'written',
  format: 'written',
};

function subjectOf({ id, part = [id] }: Sentence): SentenceSubject {
  return byPart[part.at(-1)!] ?? byPart[part[0]!] ?? 'shown';
}

/** The sentences of a chart by what they are about; null where they are few enough to stand in one list. */
export function sentenceGroups(sentences: readonly Sentence[]): SentenceGroup[] | null {
  if (sentences.length <= atAGlance) return null;
  return subjects.flatMap((subject) => {
    const own = sentences.filter((sentence) => subjectOf(sentence) === subject);
    return own.length ? [{ id: subject, title: tell('group', { subject }), sentences: own }] : [];
  });
}
