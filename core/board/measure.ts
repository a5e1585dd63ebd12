import { closedObject, IsOptional, oneOf, RequiredWhen, type Schema } from './validation';
import 'reflect-metadata/lite';
import { IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { FigureFormat } from './figure-format';
import { Part } from './part';

export const aggregates = ['sum', 'average', 'count', 'min', 'max'] as const;
export type Aggregate = (typeof aggregates)[number];

export const shareScopes = ['everything', 'kept', 'category', 'series'] as const;
/** Of what figures are shares: all there is, all that is kept, or what is kept of their category or series. */
export type ShareScope = (typeof shareScopes)[number];

/** An aggregate of a field; `count` without a field counts rows; or what a formula makes of aggregates and levers. */
export class Measure {
  @IsIn([...aggregates, 'formula'])
  aggregate!: Aggregate | 'formula';

  @IsOptional()
  @IsString()
  @MaxLength(63)
  field?: string;

  /** The formula, a standard SQL expression: `sum(revenue) / sum(passengers)`. */
  @RequiredWhen('aggregate', ['formula'])
  @IsString()
  @IsNotEmpty()
  @MaxLength(10_000)
  text?: string;

  /** What a formula is called; as it is written where it is left out. */
  @IsOptional()
  @IsString()
  @MaxLength(80)
  name?: string;

  /** How its figures are written; as plain numbers where it is left out, shares as percentages. */
  @IsOptional()
  @Part(() => FigureFormat)
  format?: FigureFormat;

  /** While a chart compares: what its figures are instead. Never in a document. */
  compared?: 'difference' | 'ratio' | 'percent';

  /** Its figures are taken as shares; as they are where it is left out. */
  @IsOptional()
  @IsIn(shareScopes)
  share?: ShareScope;
}

const percent: FigureFormat = { as: 'percent' };

/** How the figures of a measure are written. */
export const formatOf = ({ format, share }: Measure): FigureFormat | undefined =>
  format ?? (share && percent);

/** The measure that shares are taken of. */
export const plainMeasure = ({ share: _share, format: _format, ...plain }: Measure): Measure => plain;

/** A measure's identity: `sum.passengers`, `count`, `formula.sum(revenue) * 2`. */
export const measureKey = ({ aggregate, field, text, share }: Measure) =>
  `${aggregate === 'formula' ? `formula.${text}` : field ? `${aggregate}.${field}` : aggregate}${share ? ` of ${share}` : ''}`;

/** An aggregate of a field, or the count of rows, as a schema: it takes what `isMeasureLike` does. */
export const plainMeasureSchema: Schema = {
  anyOf: [
    closedObject({ aggregate: oneOf('count'), field: { type: 'string' } }, ['aggregate']),
    closedObject({ aggregate: oneOf(...aggregates), field: { type: 'string' } }),
  ],
};

/** Whether untrusted JSON is a measure. */
export function isMeasureLike(value: unknown): value is Measure {
  if (typeof value !== 'object' || value === null) return false;
  const { aggregate, field, ...rest } = value as Record<string, unknown>;
  return (
    aggregates.includes(aggregate as Aggregate) &&
    (aggregate === 'count' ? field === undefined || typeof field === 'string' : typeof field === 'string') &&
    Object.keys(rest).length === 0
  );
}
