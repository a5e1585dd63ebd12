import 'reflect-metadata/lite';
import { IsIn, IsNotEmpty, IsOptional, IsString, MaxLength, ValidateIf } from 'class-validator';
import { FigureFormat } from './figure-format';
import { Part } from './part';

export const aggregates = ['sum', 'average', 'count', 'min', 'max'] as const;
export type Aggregate = (typeof aggregates)[number];

/** An aggregate of a field; `count` without a field counts rows; or what a formula makes of aggregates and levers. */
export class Measure {
  @IsIn([...aggregates, 'formula'])
  aggregate!: Aggregate | 'formula';

  @IsOptional()
  @IsString()
  @MaxLength(63)
  field?: string;

  /** The formula, a standard SQL expression: `sum(revenue) / sum(passengers)`. */
  @ValidateIf(({ aggregate, text }: Measure) => aggregate === 'formula' || text !== undefined)
  @IsString()
  @IsNotEmpty()
  @MaxLength(10_000)
  text?: string;

  /** What a formula is called; as it is written where it is left out. */
  @IsOptional()
  @IsString()
  @MaxLength(80)
  name?: string;

  /** How its figures are written; as plain numbers where it is left out. */
  @IsOptional()
  @Part(() => FigureFormat)
  format?: FigureFormat;
}

/** A measure's identity: `sum.passengers`, `count`, `formula.sum(revenue) * 2`. */
export const measureKey = ({ aggregate, field, text }: Measure) =>
  aggregate === 'formula' ? `formula.${text}` : field ? `${aggregate}.${field}` : aggregate;

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
