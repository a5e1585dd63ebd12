import { localeOf } from '@sorvik/core/messages/locale';
import { isSpoken } from '../ui/language';
import { tell } from '../ui/tell';

/** What is offered; where the program has no words in a language, numbers and dates are written its way. */
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
  return isSpoken(localeOf(tag).language)
    ? name
    : tell('bench.boardLanguages.nameNumbersAndDatesOnly', { name });
}

/** What a board can be set to be read in; a tag that its document brought with it is among them. */
export const boardLanguages = (own: string | undefined): { value: string; text: string }[] =>
  [...new Set([...offered, ...(own ? [own] : [])])].map((value) => ({ value, text: nameOf(value) }));
