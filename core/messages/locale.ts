/** How a language and its region write numbers, dates and lists. One of each tag, so that it can be told by identity. */
export interface Locale {
  /** A BCP 47 language tag, as `Intl` takes it. */
  readonly tag: string;
  /** The tag as it was given: what a page says its language is. */
  readonly lang: string;
  /** The language by itself: "de" of "de-AT". */
  readonly language: string;
  readonly direction: 'ltr' | 'rtl';
  /** The mark before decimals. */
  readonly decimalMark: string;
  /** How thousands, millions .. are written short, the largest first; 1 stands for the figure itself. */
  readonly units: readonly NumberUnit[];
  /** A number with so many decimals, thousands marked and with a real minus sign. */
  fixed(value: number, decimals: number): string;
  /** A number that is written already, as one of percent: "18.1%", "18,1 %". */
  percent(text: string): string;
  /** A whole number: "1,200". */
  count(value: number): string;
  /** "a", "a and b", "a, b and c". */
  list(items: readonly string[]): string;
  /** Parts of a date, which is taken as UTC. */
  date(date: Date, parts: DateParts): string;
  /** A name as it reads inside a sentence: "passengers" for "Passengers", where the language writes nouns small. */
  inSentence(name: string): string;
  /** Many of what a name calls one: "routes" for "route"; the name where that cannot be told from it. */
  plural(name: string): string;
}

export interface NumberUnit {
  size: number;
  /** A figure in this unit with the unit's mark: "20K", "20 Mio.". */
  write(text: string): string;
}

export const dateParts = {
  day: { day: 'numeric', month: 'short', year: 'numeric' },
  month: { month: 'short', year: 'numeric' },
  year: { year: 'numeric' },
  dayOfYear: { day: 'numeric', month: 'short' },
  weekday: { weekday: 'short' },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;
export type DateParts = keyof typeof dateParts;

/** The tag that a board is written in where it says none. */
export const usualLocale = 'en';

/** English by itself is that of no country: days stand before months, as dates are read in most of them. */
const tagOf = (tag: string) => (tag === 'en' ? 'en-001' : tag);

const isWritten = (tag: string): boolean => {
  try {
    return Intl.getCanonicalLocales(tag).length === 1;
  } catch {
    return false;
  }
};

const sizes = [1e12, 1e9, 1e6, 1e3];
const ofNumber = new Set(['integer', 'group', 'decimal', 'fraction', 'minusSign', 'plusSign']);

/** What a format puts around its number, as a function that puts it around another. */
function around(format: Intl.NumberFormat, value: number): ((text: string) => string) | undefined {
  const parts = format.formatToParts(value);
  const first = parts.findIndex(({ type }) => ofNumber.has(type));
  const last = parts.findLastIndex(({ type }) => ofNumber.has(type));
  const text = (some: Intl.NumberFormatPart[]) => some.map((part) => part.value).join('');
  const [before, after] = [text(parts.slice(0, first)), text(parts.slice(last + 1))];
  return before || after ? (inside) => `${before}${inside}${after}` : undefined;
}

/** English plural of a common noun or of a field's name: "route" -> "routes", "quay" -> "quays", "ferry" -> "ferries". */
export function englishPlural(noun: string): string {
  if (noun.includes(' and ')) return noun.split(' and ').map(englishPlural).join(' and ');
  if (/[^aeiou]y$/i.test(noun)) return `${noun.slice(0, -1)}ies`;
  if (/(s|x|z|ch|sh)$/i.test(noun)) return /s$/i.test(noun) && !/ss$/i.test(noun) ? noun : `${noun}es`;
  return /\p{L}$/u.test(noun) ? `${noun}s` : `${noun} values`;
}

/** Names start small inside an English sentence, but "CO2" and "ID" stay as they are. */
const smallFirst = (name: string) =>
  /^\p{Lu}\p{Ll}/u.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name;

/** Makes something when it is first asked for. */
function lazily<T>(make: () => T): () => T {
  let made: { it: T } | undefined;
  return () => {
    made ??= { it: make() };
    return made.it;
  };
}

function madeLocale(given: string): Locale {
  const tag = tagOf(given);
  const { language, script } = new Intl.Locale(tag).maximize();
  const formats: Intl.NumberFormat[] = [];
  const fixedFormat = (decimals: number) => {
    formats[decimals] ??= new Intl.NumberFormat(tag, {
      minimumFractionDigits: decimals,
      maximumFractionDigits: decimals,
      signDisplay: 'negative',
    });
    return formats[decimals];
  };
  const fixed = (value: number, decimals: number) => fixedFormat(decimals).format(value).replace('-', '−');
  // Formats are made when they are first needed: each takes milliseconds.
  const units = lazily(() => {
    const compact = new Intl.NumberFormat(tag, { notation: 'compact' });
    const inUnits = sizes.flatMap((size) => {
      const write = around(compact, size);
      return write ? [{ size, write }] : [];
    });
    return [...inUnits, { size: 1, write: (text: string) => text }];
  });
  const percent = lazily(
    () => around(new Intl.NumberFormat(tag, { style: 'percent' }), 1) ?? ((text: string) => `${text}%`),
  );
  const lists = lazily(() => new Intl.ListFormat(tag));
  const decimalMark = lazily(
    () =>
      fixedFormat(1)
        .formatToParts(0.5)
        .find(({ type }) => type === 'decimal')?.value ?? '.',
  );
  const dates = new Map<DateParts, Intl.DateTimeFormat>();
  const date = (at: Date, parts: DateParts) => {
    const known =
      dates.get(parts) ??
      new Intl.DateTimeFormat(tag, { ...dateParts[parts], calendar: 'gregory', timeZone: 'UTC' });
    dates.set(parts, known);
    return known.format(at);
  };
  const english = language === 'en';
  return {
    tag,
    lang: given,
    language,
    direction: ['Arab', 'Hebr', 'Syrc', 'Thaa', 'Nkoo'].includes(script ?? '') ? 'rtl' : 'ltr',
    get decimalMark() {
      return decimalMark();
    },
    get units() {
      return units();
    },
    fixed,
    get percent() {
      return percent();
    },
    count: (value) => fixed(value, 0),
    list: (items) => lists().format(items),
    date,
    inSentence: english ? smallFirst : (name) => name,
    plural: english ? englishPlural : (name) => name,
  };
}

const made = new Map<string, Locale>();

/** The locale of a language tag; of a tag that is none, or where there is none, English. */
export function localeOf(tag: string | undefined): Locale {
  const given = tag ?? usualLocale;
  let locale = made.get(given);
  if (!locale) {
    locale = given !== usualLocale && !isWritten(given) ? localeOf(usualLocale) : madeLocale(given);
    made.set(given, locale);
  }
  return locale;
}

/** Forgets the locales of a language: what has just been learned of it is read by a new one. */
export function renewLocales(language: string): void {
  for (const [tag, locale] of made) if (locale.language === language) made.delete(tag);
}

export const english = localeOf(usualLocale);
