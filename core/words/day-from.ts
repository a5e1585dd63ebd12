import { timeFormatLocale } from 'd3-time-format';
import { isDateText } from '../data/periods';
import { english, type Locale } from '../messages/locale';

const forms = ['%d %b %Y', '%d %B %Y', '%d.%m.%Y', '%b %Y', '%B %Y', '%Y-%m', '%Y'];

const plainly = (text: string) => text.trim().replace(/\s+/g, ' ');
/** Points after a day or a shortened month say nothing: "12. März 2021", "5 sept. 2021". */
const withoutPoints = (text: string) =>
  text.replace(/(\p{L})\./gu, '$1').replace(/^(\d{1,2})\. (?=\p{L})/u, '$1 ');

type Parse = (text: string) => Date | null;
const parsers = new WeakMap<Locale, Parse[]>();

/** What reads dates with the months of a locale. */
function parsersOf(locale: Locale): Parse[] {
  const known = parsers.get(locale);
  if (known) return known;
  const monthsAs = (month: 'short' | 'long') => {
    const format = new Intl.DateTimeFormat(locale.tag, { month, calendar: 'gregory', timeZone: 'UTC' });
    return Array.from({ length: 12 }, (_, at) => withoutPoints(format.format(Date.UTC(2021, at, 1))));
  };
  const days = Array.from({ length: 7 }, (_, at) => String(at));
  const { utcParse } = timeFormatLocale({
    dateTime: '%x %X',
    date: '%Y-%m-%d',
    time: '%H:%M:%S',
    periods: ['AM', 'PM'],
    days: days as never,
    shortDays: days as never,
    months: monthsAs('long') as never,
    shortMonths: monthsAs('short') as never,
  });
  const made = forms.map((form) => utcParse(form));
  parsers.set(locale, made);
  return made;
}

/**
 * A day as people write it: 2021-03-12, 12 Mar 2021, 12.3.2021, Mar 2021, 2021, with the names of the locale's months
 * or English ones. Undefined for anything else.
 */
export function dayFrom(text: string, locale: Locale): string | undefined {
  const plain = plainly(text);
  if (isDateText(plain as unknown)) return plain.slice(0, 10);
  const written = withoutPoints(plain);
  for (const parse of [...parsersOf(locale), ...parsersOf(english)]) {
    const date = parse(written);
    if (date) return date.toISOString().slice(0, 10);
  }
  return undefined;
}
