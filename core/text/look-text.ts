import { type Colour, isValueColour, type Look, seriesColour } from '../board/look';
import { colourName } from '../words/colour-name';
import { measureText } from '../words/measure-text';
import { numberText } from '../words/number-text';
import type { Vocabulary } from '../words/vocabulary';

function colourText(colour: Colour | undefined, words: Vocabulary): string | undefined {
  if (!isValueColour(colour))
    return colour === seriesColour ? "its series' colour" : colour && colourName(colour);
  const centre = numberText(colour.centre ?? 0);
  const of = colour.measure ? ` by ${measureText(colour.measure, words)}` : '';
  return colour.by === 'sign'
    ? `${colourName(colour.above)} from ${centre} on and ${colourName(colour.below)} below${of}`
    : `a gradient from ${colourName(colour.below)} below ${centre} to ${colourName(colour.above)} above${of}`;
}

/** "orange", "green, outlined", "grey, heavy, with diamonds"; `nothing` for a look that sets nothing. */
export const lookText = (look: Look, words: Vocabulary, nothing = 'its own colour'): string =>
  [
    colourText(look.colour, words),
    look.weight,
    look.outline && 'outlined',
    look.hatch && 'hatched',
    look.marker && `with ${look.marker}s`,
    look.markerSize && `${look.markerSize} px`,
    look.label === true && 'with its value',
    look.label === false && 'without its value',
    look.onTop && 'on top',
  ]
    .filter(Boolean)
    .join(', ') || nothing;
