import { IsBoolean, IsIn, IsOptional } from 'class-validator';

/**
 * The colours a look may name. Each has a tone for the light and for the dark ground, at least 3:1 against that
 * ground and clearly off its muted tone; the tones themselves live in the theme.
 */
export const lookColours = ['ember', 'kelp', 'heather', 'tide', 'ochre', 'rosehip', 'slate', 'ink'] as const;
export type LookColour = (typeof lookColours)[number];

/** How a lit mark looks. A property left out is left to the next cue that lights the mark. */
export class Look {
  @IsOptional()
  @IsIn(lookColours)
  colour?: LookColour;

  /** A dark edge around the mark, so that colour is never the only sign. */
  @IsOptional()
  @IsBoolean()
  outline?: boolean;

  /** Fine diagonal lines over the mark. */
  @IsOptional()
  @IsBoolean()
  hatch?: boolean;
}
