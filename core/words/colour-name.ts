import { isNamedColour } from '../board/look';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';

/** The name of a colour in plain words; documents keep its id. A colour of the author's own is its own name. */
export const colourName = (colour: string, locale: Locale): string =>
  isNamedColour(colour) ? say(locale, 'colour', { colour }) : colour;
