import type { Dimension, Grain } from '../data/dimension';
import { tell } from '../messages/desk';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import type { Vocabulary } from './vocabulary';

/** Names that say no more than that a field is a date: "month of month" would say nothing. */
const plainDate = /^(date|day|time|timestamp|datetime|when|week|month|quarter|year|period)$/i;

/** "month" (of the only date there is to speak of), "month of arrival". */
export const periodText = (grain: Grain, name: string, locale: Locale): string => {
  const unit = say(locale, 'unit', { n: 1, unit: grain });
  return plainDate.test(name) ? unit : say(locale, 'unitOf', { unit, name });
};

/** "route", "month", "month of arrival". */
export function dimensionText({ field, grain }: Dimension, words: Vocabulary): string {
  const name = words.fieldName(field);
  return grain ? periodText(grain, name, words.locale) : name;
}

/** What so many of a dimension are called: "route", "months". */
export const dimensionNoun = (
  { field, grain }: Dimension,
  n: number,
  { locale, fieldName }: Vocabulary,
): string => {
  if (grain) return say(locale, 'unit', { n, unit: grain });
  const name = fieldName(field);
  return n === 1 ? name : locale.plural(name);
};

/** What each mark stands for: "route", "fare type in a month". */
export const keysText = (
  { by, split }: { by: Dimension; split?: Dimension | undefined },
  words: Vocabulary,
) =>
  split
    ? tell('keys', { series: dimensionText(split, words), category: dimensionText(by, words) })
    : dimensionText(by, words);
