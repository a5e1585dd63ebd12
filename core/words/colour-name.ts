import { isNamedColour } from '../board/look';
import type { Locale } from './locale';
import { say } from './say';

/** The name of a colour in plain words; documents keep its id. A colour of the author's own is its own name. */
export const colourName = (colour: string, locale: Locale): string =>
  isNamedColour(colour) ? say(locale, 'colour', { colour }) : colour;
