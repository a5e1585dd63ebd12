import type { Grain } from '../data/dimension';
import { restCategory } from '../data/kept-categories';
import type { FieldType, KeyValue } from '../data/values';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';

const periodTexts: Record<Grain, (date: Date, locale: Locale) => string> = {
  year: (date, locale) => locale.date(date, 'year'),
  quarter: (date, locale) =>
    say(locale, 'quarter', {
      quarter: Math.floor(date.getUTCMonth() / 3) + 1,
      year: locale.date(date, 'year'),
    }),
  month: (date, locale) => locale.date(date, 'month'),
  week: (date, locale) => locale.date(date, 'day'),
  day: (date, locale) => locale.date(date, 'day'),
};

/** How the value of a field, or a period of it, reads. Years and other whole numbers used as names carry no marks. */
export function keyText(value: KeyValue, locale: Locale, type?: FieldType, grain?: Grain): string {
  if (value === null) return say(locale, 'missing');
  if (value === restCategory) return say(locale, 'others');
  if (typeof value === 'boolean') return say(locale, value ? 'yes' : 'no');
  // In full: two different values never read alike.
  if (typeof value === 'number') return String(value);
  if (type !== 'date' && type !== 'datetime')
    return value.startsWith('(') && value === say(locale, 'missing') ? `"${value}"` : value;
  const date = new Date(value.length > 10 ? `${value}Z` : value);
  if (Number.isNaN(date.getTime())) return value;
  if (grain) return periodTexts[grain](date, locale);
  const day = locale.date(date, 'day');
  return type === 'date' ? day : `${day} ${value.slice(11)}`;
}
