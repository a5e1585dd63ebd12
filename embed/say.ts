import { catalogueOf } from '@sorvik/core/messages/catalogue';
import { type Locale, localeOf } from '@sorvik/core/messages/locale';
import { coreMessages } from '@sorvik/core/messages/say';
import { viewMessages } from '@sorvik/view/say';
import english from './messages/en.json';

/** What elements in other pages say by themselves. */
const embedMessages = catalogueOf(english);
export const { say } = embedMessages;
export type EmbedMessage = keyof typeof english;

/** The languages besides English, each fetched when it is wanted. */
const languages: Record<string, () => Promise<void>> = {
  async de() {
    const [core, view, own] = await Promise.all([
      import('@sorvik/core/messages/de.json'),
      import('@sorvik/view/messages/de.json'),
      import('./messages/de.json'),
    ]);
    coreMessages.learn('de', core.default);
    viewMessages.learn('de', view.default);
    embedMessages.learn('de', own.default);
  },
};

const learned = new Map<string, Promise<void>>();

/** The locale of a tag once its language is known; where it cannot be fetched, words are English. */
export async function spokenLocale(tag: string | undefined): Promise<Locale> {
  const { language } = localeOf(tag);
  const learn = languages[language];
  if (learn) {
    const learning = learned.get(language) ?? learn().catch(() => void learned.delete(language));
    learned.set(language, learning);
    await learning;
  }
  return localeOf(tag);
}
