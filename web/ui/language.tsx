import type { Slots } from '@sorvik/core/messages/catalogue';
import { english, type Locale, localeOf } from '@sorvik/core/messages/locale';
import { coreMessages } from '@sorvik/core/messages/say';
import { viewMessages } from '@sorvik/view/say';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import { say, type WebMessage, webMessages } from './say';

/** The locale of the board that is shown. */
export const LocaleContext = createContext<Locale>(english);

/** A part of the page that speaks the language of its board, and says so to whoever reads it aloud. */
export const InLanguage = ({ locale, children }: { locale: Locale; children: ReactNode }) => (
  <LocaleContext value={locale}>
    <div className="sv-in-language" lang={locale.lang}>
      {children}
    </div>
  </LocaleContext>
);

/** How a part of the page speaks: the locale of its board, and its messages in it. */
export function useLanguage(): { locale: Locale; say(id: WebMessage, slots?: Slots): string } {
  const locale = useContext(LocaleContext);
  return { locale, say: (id, slots) => say(locale, id, slots) };
}

/** The languages besides English, each fetched when a board is in it. */
const languages: Record<string, () => Promise<void>> = {
  async de() {
    const [core, view, web] = await Promise.all([
      import('@sorvik/core/messages/de.json'),
      import('@sorvik/view/messages/de.json'),
      import('../messages/de.json'),
    ]);
    coreMessages.learn('de', core.default);
    viewMessages.learn('de', view.default);
    webMessages.learn('de', web.default);
  },
};

/** Whether the program has words in a language; in any other, its words are English. */
export const isSpoken = (language: string): boolean => language === 'en' || language in languages;

const begun = new Map<string, Promise<void>>();
const known = new Set<string>();

/** Learns a language, once; what could not be fetched can be tried again. */
function learned(language: string): Promise<void> {
  const promise =
    begun.get(language) ??
    languages[language]!().then(
      () => void known.add(language),
      () => void begun.delete(language),
    );
  begun.set(language, promise);
  return promise;
}

/** The locale of a board once its language is known here, or cannot be fetched: then it speaks English. Undefined before. */
export function useLocaleOf(tag: string | undefined): Locale | undefined {
  const { language } = localeOf(tag);
  const [tried, setTried] = useState<string>();
  const there = !(language in languages) || known.has(language) || tried === language;
  useEffect(() => {
    if (there) return undefined;
    let left = false;
    void learned(language).then(() => !left && setTried(language));
    return () => {
      left = true;
    };
  }, [language, there]);
  return there ? localeOf(tag) : undefined;
}

/**
 * Tells browsers and screen readers in which language the page is, and in which direction it reads: that of its words,
 * which are English where the program does not speak the language. What authors write finds its own direction.
 */
export function useDocumentLanguage(locale: Locale | undefined): void {
  useEffect(() => {
    if (!locale) return undefined;
    const { documentElement: root } = document;
    root.lang = locale.lang;
    root.dir = isSpoken(locale.language) ? locale.direction : 'ltr';
    return () => {
      root.lang = 'en';
      root.dir = 'ltr';
    };
  }, [locale]);
}
