import type { Chart } from '@sorvik/core/board/chart';
import type { Sentence, Word } from '@sorvik/core/words/sentence';

type Path = readonly (string | number)[];
// biome-ignore lint/suspicious/noExplicitAny: a path leads through parts of any shape
type AnyPart = any;

const reach = (root: unknown, path: Path): AnyPart => path.reduce<AnyPart>((part, key) => part?.[key], root);

/** The place in a chart that a word edits. */
export const pathOf = (sentence: Sentence, word: Word): Path => [
  ...(sentence.part ?? []),
  ...(word.path ?? []),
];

/** Puts a value where a word of a chart's draft edits; undefined takes it away. */
export function setWord(chart: Chart, sentence: Sentence, word: Word, value: unknown): void {
  const path = pathOf(sentence, word);
  const holder = reach(chart, path.slice(0, -1));
  const key = path.at(-1);
  if (!holder || key === undefined) return;
  if (value === undefined) delete holder[key];
  else holder[key] = value;
}

/** Takes a sentence out of a chart's draft. */
export function removeSentence(chart: Chart, sentence: Sentence): void {
  const path = sentence.part ?? [];
  const holder = reach(chart, path.slice(0, -1));
  const key = path.at(-1);
  if (typeof key === 'number') holder.splice(key, 1);
  else if (key !== undefined) delete holder[key];
}

/** The part of a chart that a sentence speaks of. */
export const partOf = <T>(chart: Chart, sentence: Sentence): T => reach(chart, sentence.part ?? []) as T;
