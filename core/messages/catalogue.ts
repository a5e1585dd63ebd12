import { IntlMessageFormat } from 'intl-messageformat';
import { type Locale, renewLocales } from './locale';

/** What stands in the slots of a message. */
export type Slots = Readonly<Record<string, string | number>>;

/** Messages by their ids, in the ICU message format. */
export type Messages<Id extends string> = Readonly<Record<Id, string>>;

/** The messages of a part of the program, in every language there is. */
export interface Catalogue<Id extends string> {
  /** A message with its slots filled, in the locale's language, or in English where it is not known in that one. */
  say(locale: Locale, id: Id, slots?: Slots): string;
  /** The same where things other than texts stand in slots, such as a link: the texts and things in their order. */
  parts(locale: Locale, id: Id, slots: Readonly<Record<string, unknown>>): unknown[];
  /** Takes in another language. Locales made before are made anew, as they may have spoken English. */
  learn(language: string, messages: Messages<Id>): void;
}

/** Makes a format of `Intl` once for each of its options: to make one takes longer than to write a number with it. */
function onceEach<Options, Format>(make: (options: Options | undefined) => Format) {
  const made = new Map<string, Format>();
  return (_language: unknown, options?: Options): Format => {
    const key = JSON.stringify(options) ?? '';
    const format = made.get(key) ?? make(options);
    made.set(key, format);
    return format;
  };
}

/** The words decide what is one and what is many; the locale how numbers are written. */
const formattersOf = (locale: Locale, language: string) => ({
  getNumberFormat: onceEach(
    (options: Intl.NumberFormatOptions | undefined) => new Intl.NumberFormat(locale.tag, options),
  ),
  getDateTimeFormat: onceEach(
    (options: Intl.DateTimeFormatOptions | undefined) => new Intl.DateTimeFormat(locale.tag, options),
  ),
  getPluralRules: onceEach(
    (options: Intl.PluralRulesOptions | undefined) => new Intl.PluralRules(language, options),
  ),
});

/** A catalogue that speaks English, until it learns more. */
export function catalogueOf<Id extends string>(english: Messages<Id>): Catalogue<Id> {
  const known = new Map<string, Messages<Id>>([['en', english]]);
  /** What says a message in a locale, made when it is said first. */
  const saidIn = (locale: Locale): ((id: Id) => IntlMessageFormat) => {
    const language = known.has(locale.language) ? locale.language : 'en';
    const formatters = formattersOf(locale, language);
    const made = new Map<Id, IntlMessageFormat>();
    return (id) => {
      const format =
        made.get(id) ??
        new IntlMessageFormat(known.get(language)![id], language, undefined, { ignoreTag: true, formatters });
      made.set(id, format);
      return format;
    };
  };
  const formats = new WeakMap<Locale, (id: Id) => IntlMessageFormat>();
  const formatOf = (locale: Locale, id: Id): IntlMessageFormat => {
    const own = formats.get(locale) ?? saidIn(locale);
    formats.set(locale, own);
    return own(id);
  };
  return {
    say: (locale, id, slots) => String(formatOf(locale, id).format(slots)),
    parts: (locale, id, slots) => [formatOf(locale, id).format<unknown>(slots as never)].flat(),
    learn(language, messages) {
      known.set(language, messages);
      renewLocales(language);
    },
  };
}
