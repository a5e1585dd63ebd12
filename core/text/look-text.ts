import { type Colour, isValueColour, type Look, seriesColour } from '../board/look';
import { measureText } from '../words/measure-text';
import { numberText } from '../words/number-text';
import type { Vocabulary } from '../words/vocabulary';

function colourText(colour: Colour | undefined, words: Vocabulary): string | undefined {
  if (!isValueColour(colour)) return colour === seriesColour ? "each series' own colour" : colour;
  const centre = numberText(colour.centre ?? 0);
  const of = colour.measure ? ` by ${measureText(colour.measure, words)}` : '';
  return colour.by === 'sign'
    ? `${colour.above} from ${centre} on and ${colour.below} below${of}`
    : `${colour.above} above ${centre} and ${colour.below} below, stronger the farther${of}`;
}

/** "ember", "kelp, outlined", "slate, heavy, with diamonds"; `nothing` for a look that sets nothing. */
export const lookText = (look: Look, words: Vocabulary, nothing = 'its own colour'): string =>
  [
    colourText(look.colour, words),
    look.weight,
    look.outline && 'outlined',
    look.hatch && 'hatched',
    look.marker && `with ${look.marker}s`,
    look.markerSize && `${look.markerSize} px`,
    look.label === true && 'with its figure',
    look.label === false && 'without its figure',
    look.onTop && 'on top',
  ]
    .filter(Boolean)
    .join(', ') || nothing;
