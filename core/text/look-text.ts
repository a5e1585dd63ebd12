import { type Colour, isValueColour, type Look, seriesColour } from '../board/look';
import { say } from '../messages/say';
import { colourName } from '../words/colour-name';
import { measureText } from '../words/measure-text';
import { numberText } from '../words/number-text';
import type { Vocabulary } from '../words/vocabulary';

function colourText(colour: Colour | undefined, words: Vocabulary): string | undefined {
  const { locale } = words;
  if (!isValueColour(colour))
    return colour === seriesColour ? say(locale, 'look.series') : colour && colourName(colour, locale);
  return say(locale, 'look.byValue', {
    by: colour.by,
    above: colourName(colour.above, locale),
    below: colourName(colour.below, locale),
    centre: numberText(colour.centre ?? 0, locale),
    named: colour.measure ? 'yes' : 'no',
    measure: colour.measure ? measureText(colour.measure, words) : '',
  });
}

/** "orange", "green, outlined", "grey, heavy, with diamonds"; `nothing` for a look that sets nothing. */
export function lookText(look: Look, words: Vocabulary, nothing = say(words.locale, 'look.own')): string {
  const { locale } = words;
  const texts = [
    colourText(look.colour, words),
    look.weight && say(locale, 'look.weight', { weight: look.weight }),
    look.outline && say(locale, 'look.outline'),
    look.hatch && say(locale, 'look.hatch'),
    look.marker && say(locale, 'look.marker', { marker: look.marker }),
    look.markerSize && say(locale, 'look.markerSize', { size: look.markerSize }),
    look.label !== undefined && say(locale, 'look.label', { shown: look.label ? 'yes' : 'no' }),
    look.onTop && say(locale, 'look.onTop'),
  ];
  return texts.filter(Boolean).join(', ') || nothing;
}
