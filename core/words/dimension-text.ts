import type { Dimension } from '../data/dimension';
import type { Vocabulary } from './vocabulary';

/** "route", "month" (of the only date there is to speak of), "month of arrival". */
export function dimensionText(dimension: Dimension, words: Vocabulary): string {
  const name = words.fieldName(dimension.field);
  if (!dimension.grain) return name;
  return /^(date|day|time|timestamp)$/i.test(name) ? dimension.grain : `${dimension.grain} of ${name}`;
}

/** The noun that is counted: "routes", "months". */
export const dimensionNoun = (dimension: Dimension, words: Vocabulary) =>
  dimension.grain ?? words.fieldName(dimension.field);

/** What each mark stands for: "route", "fare type in a month". */
export const keysText = (
  { by, split }: { by: Dimension; split?: Dimension | undefined },
  words: Vocabulary,
) => (split ? `${dimensionText(split, words)} at a ${dimensionText(by, words)}` : dimensionText(by, words));
