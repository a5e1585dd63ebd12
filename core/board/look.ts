import { IsBoolean, IsOptional, ValidateBy } from 'class-validator';

/**
 * The colours a look may name. Each has a tone for the light and for the dark ground, at least 3:1 against that
 * ground and clearly off its muted tone; the tones themselves live in the theme.
 */
export const lookColours = ['ember', 'kelp', 'heather', 'tide', 'ochre', 'rosehip', 'slate', 'ink'] as const;
export type LookColour = (typeof lookColours)[number];

/** A colour of the author's own, the same on both grounds: `#b8441c`, `#b41` or `rgb(184, 68, 28)`. */
export const ownColour = /^(#[0-9a-f]{3}|#[0-9a-f]{6}|rgb\(\s*\d{1,3}\s*,\s*\d{1,3}\s*,\s*\d{1,3}\s*\))$/i;

export const isNamedColour = (colour: string | undefined): colour is LookColour =>
  lookColours.includes(colour as LookColour);

/** How a lit mark looks. A property left out is left to the next cue that lights the mark. */
export class Look {
  @IsOptional()
  @ValidateBy({
    name: 'isLookColour',
    validator: {
      validate: (value) => typeof value === 'string' && (isNamedColour(value) || ownColour.test(value)),
      defaultMessage: (args) =>
        `${args?.property} must be one of ${lookColours.join(', ')}, or a colour such as #b8441c or rgb(184, 68, 28)`,
    },
  })
  colour?: string;

  /** A dark edge around the mark, so that colour is never the only sign. */
  @IsOptional()
  @IsBoolean()
  outline?: boolean;

  /** Fine diagonal lines over the mark. */
  @IsOptional()
  @IsBoolean()
  hatch?: boolean;
}
