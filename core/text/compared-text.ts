import type { Chart } from '../board/chart';
import type { Compare } from '../board/compare';
import type { KeyValue } from '../data/values';
import { say } from '../messages/say';
import type { NotCompared } from '../pipeline/compared';
import { keyText } from '../words/key-text';
import type { Vocabulary } from '../words/vocabulary';

/** A comparison, and the category that it is with where that is a single one. */
interface With {
  compare: Compare;
  reference?: KeyValue | undefined;
}

const otherText = ({ by }: Chart, { compare, reference }: With, words: Vocabulary): string =>
  reference === undefined
    ? say(words.locale, 'compare.with', { with: compare.with })
    : keyText(reference, words.locale, words.field(by.field)?.type, by.grain);

/** What marks are compared with now: "compared with Quel – Ostrin, as percent". */
export const comparedText = (chart: Chart, made: With, words: Vocabulary): string =>
  say(words.locale, 'compare.made', { other: otherText(chart, made, words), as: made.compare.as });

/** Why marks show themselves though they were to be compared: "Not compared: Quel – Ostrin is not among what is shown." */
export const notComparedText = (
  chart: Chart,
  made: With & { not: NotCompared | null },
  words: Vocabulary,
): string =>
  say(words.locale, 'compare.not', {
    other: otherText(chart, made, words),
    why: made.not === 'no value' ? 'none' : (made.not ?? 'none'),
  });
