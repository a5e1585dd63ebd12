import { closedObject, IsOptional, Own, oneOf } from './validation';
import 'reflect-metadata/lite';
import { IsBoolean, IsIn, Max, Min } from 'class-validator';
import { isMeasureLike, type Measure, plainMeasureSchema } from './measure';

/**
 * The colours a look may name. Each has a tone for the light and for the dark ground, at least 3:1 against that
 * ground and clearly off its muted tone; the tones themselves live in the theme.
 */
export const lookColours = ['ember', 'kelp', 'heather', 'tide', 'ochre', 'rosehip', 'slate', 'ink'] as const;
export type LookColour = (typeof lookColours)[number];

/** A colour of the author's own, the same on both grounds: `#b8441c`, `#b41` or `rgb(184, 68, 28)`. */
const ownColourText =
  '^(#[0-9a-fA-F]{3}|#[0-9a-fA-F]{6}|[rR][gG][bB]\\(\\s*\\d{1,3}\\s*,\\s*\\d{1,3}\\s*,\\s*\\d{1,3}\\s*\\))$';
export const ownColour = new RegExp(ownColourText);

export const isNamedColour = (colour: unknown): colour is LookColour =>
  lookColours.includes(colour as LookColour);
const isFixedColour = (colour: unknown): colour is string =>
  typeof colour === 'string' && (isNamedColour(colour) || ownColour.test(colour));

/** One colour for readings from a centre on, another one for those below it. */
export interface SignColour {
  by: 'sign';
  above: string;
  below: string;
  /** 0 where it is left out. */
  centre?: number;
  /** The measure whose value counts; the chart's own where it is left out. */
  measure?: Measure;
}

/** Colours that grow stronger with the distance from a centre, on either side of it. */
export interface GradientColour {
  by: 'gradient';
  above: string;
  below: string;
  centre?: number;
  measure?: Measure;
}

export type ValueColour = SignColour | GradientColour;
/** Fixed, each series in its own, or following a measure. */
export type Colour = string | ValueColour;
/** The word for a colour that follows the series. */
export const seriesColour = 'series';

export const isValueColour = (colour: Colour | undefined): colour is ValueColour =>
  typeof colour === 'object' && colour !== null;

function isColour(value: unknown): boolean {
  if (typeof value !== 'object' || value === null) return value === seriesColour || isFixedColour(value);
  const { by, above, below, centre, measure, ...rest } = value as Record<string, unknown>;
  return (
    (by === 'sign' || by === 'gradient') &&
    isFixedColour(above) &&
    isFixedColour(below) &&
    (centre === undefined || Number.isFinite(centre)) &&
    (measure === undefined || isMeasureLike(measure)) &&
    Object.keys(rest).length === 0
  );
}

const fixedColour = { anyOf: [oneOf(...lookColours), { type: 'string', pattern: ownColourText }] };

export const lookWeights = ['fine', 'strong', 'heavy'] as const;
export const markerShapes = ['disc', 'ring', 'square', 'diamond', 'triangle'] as const;
export type LookWeight = (typeof lookWeights)[number];
export type MarkerShape = (typeof markerShapes)[number];

/** How a lit mark looks. A property left out is left to the next cue that lights the mark. */
export class Look {
  @IsOptional()
  @Own({
    name: 'isLookColour',
    validate: isColour,
    message: 'check.colour',
    slots: () => ({ colours: lookColours.join(', ') }),
    schema: {
      anyOf: [
        oneOf(seriesColour),
        fixedColour,
        closedObject(
          {
            by: oneOf('sign', 'gradient'),
            above: fixedColour,
            below: fixedColour,
            centre: { type: 'number' },
            measure: plainMeasureSchema,
          },
          ['by', 'above', 'below'],
        ),
      ],
    },
  })
  colour?: Colour;

  /** How heavy the mark is: the thickness of a line, the edge of a bar. */
  @IsOptional()
  @IsIn(lookWeights)
  weight?: LookWeight;

  /** The shape of the marker at a point of a line. */
  @IsOptional()
  @IsIn(markerShapes)
  marker?: MarkerShape;

  /** The size of that marker, px across. */
  @IsOptional()
  @Min(4)
  @Max(24)
  markerSize?: number;

  /** A dark edge around the mark, so that colour is never the only sign. */
  @IsOptional()
  @IsBoolean()
  outline?: boolean;

  /** Fine diagonal lines over the mark. */
  @IsOptional()
  @IsBoolean()
  hatch?: boolean;

  /** Whether the mark has its figure beside it; left out, as the chart says. */
  @IsOptional()
  @IsBoolean()
  label?: boolean;

  /** Lies over the other marks. */
  @IsOptional()
  @IsBoolean()
  onTop?: boolean;
}
