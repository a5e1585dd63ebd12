import { localeOf } from '@sorvik/core/words/locale';
import { tell } from '../ui/tell';

/** Languages whose words viewers can read a board in; of any other, numbers and dates are written its way. */
const spoken = ['en', 'de'];
const offered = [
  'en',
  'en-GB',
  'en-US',
  'de',
  'de-CH',
  'es',
  'fr',
  'it',
  'nl',
  'pl',
  'pt',
  'sv',
  'uk',
  'ar',
  'he',
];

/** What a language calls itself. */
function nameOf(tag: string): string {
  const name = new Intl.DisplayNames([tag], { type: 'language' }).of(tag) ?? tag;
  return spoken.includes(localeOf(tag).language)
    ? name
    : tell('bench.boardLanguages.nameNumbersAndDatesOnly', { name });
}

/** What a board can be set to be read in; a tag that its document brought with it is among them. */
export const boardLanguages = (own: string | undefined): { value: string; text: string }[] =>
  [...new Set([...offered, ...(own ? [own] : [])])].map((value) => ({ value, text: nameOf(value) }));
