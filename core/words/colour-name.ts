import { isNamedColour, type LookColour } from '../board/look';

/** What each colour of the palette is called in plain words; documents keep its id. */
const names: Record<LookColour, string> = {
  ember: 'orange',
  kelp: 'green',
  heather: 'purple',
  tide: 'blue',
  ochre: 'amber',
  rosehip: 'pink',
  slate: 'grey',
  ink: 'ink',
};

/** The name of a colour: a colour of the author's own is its own name. */
export const colourName = (colour: string): string => (isNamedColour(colour) ? names[colour] : colour);
