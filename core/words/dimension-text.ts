import type { Dimension, Grain } from '../data/dimension';
import type { Vocabulary } from './vocabulary';

/** Names that say no more than that a field is a date: "month of month" would say nothing. */
const plainDate = /^(date|day|time|timestamp|datetime|when|week|month|quarter|year|period)$/i;

/** "month" (of the only date there is to speak of), "month of arrival". */
export const periodText = (grain: Grain, name: string): string =>
  plainDate.test(name) ? grain : `${grain} of ${name}`;

/** "route", "month", "month of arrival". */
export function dimensionText({ field, grain }: Dimension, words: Vocabulary): string {
  const name = words.fieldName(field);
  return grain ? periodText(grain, name) : name;
}

/** The noun that is counted: "routes", "months". */
export const dimensionNoun = (dimension: Dimension, words: Vocabulary) =>
  dimension.grain ?? words.fieldName(dimension.field);

/** What each mark stands for: "route", "fare type in a month". */
export const keysText = (
  { by, split }: { by: Dimension; split?: Dimension | undefined },
  words: Vocabulary,
) => (split ? `${dimensionText(split, words)} at a ${dimensionText(by, words)}` : dimensionText(by, words));
