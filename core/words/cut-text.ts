import type { FieldCut } from '../data/grain';
import type { Vocabulary } from './vocabulary';

/** "route", "month" (of the only date there is to speak of), "month of arrival". */
export function cutText(cut: FieldCut, words: Vocabulary): string {
  const name = words.fieldName(cut.field);
  if (!cut.grain) return name;
  return /^(date|day|time|timestamp)$/i.test(name) ? cut.grain : `${cut.grain} of ${name}`;
}

/** The noun that is counted: "routes", "months". */
export const cutNoun = (cut: FieldCut, words: Vocabulary) => cut.grain ?? words.fieldName(cut.field);

/** What each mark stands for: "route", "fare type in a month". */
export const keysText = ({ by, split }: { by: FieldCut; split?: FieldCut | undefined }, words: Vocabulary) =>
  split ? `${cutText(split, words)} at a ${cutText(by, words)}` : cutText(by, words);
