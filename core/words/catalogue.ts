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

/** A catalogue that speaks English, until it learns more. */
export function catalogueOf<Id extends string>(english: Messages<Id>): Catalogue<Id> {
  const known = new Map<string, Messages<Id>>([['en', english]]);
  const formats = new WeakMap<Locale, Map<Id, IntlMessageFormat>>();
  const made = (locale: Locale, id: Id): IntlMessageFormat => {
    const language = known.has(locale.language) ? locale.language : 'en';
    // The words decide what is one and what is many; the locale how numbers are written.
    return new IntlMessageFormat(known.get(language)![id], language, undefined, {
      ignoreTag: true,
      formatters: {
        getNumberFormat: (_language, options) => new Intl.NumberFormat(locale.tag, options),
        getDateTimeFormat: (_language, options) => new Intl.DateTimeFormat(locale.tag, options),
        getPluralRules: (_language, options) => new Intl.PluralRules(language, options),
      },
    });
  };
  const formatOf = (locale: Locale, id: Id): IntlMessageFormat => {
    const own = formats.get(locale) ?? new Map<Id, IntlMessageFormat>();
    formats.set(locale, own);
    const format = own.get(id) ?? made(locale, id);
    own.set(id, format);
    return format;
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
