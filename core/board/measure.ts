import 'reflect-metadata/lite';
import { IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import { FigureFormat } from './figure-format';
import { Part } from './part';

export const aggregates = ['sum', 'average', 'count', 'min', 'max'] as const;
export type Aggregate = (typeof aggregates)[number];

/** An aggregate of a field; `count` without a field counts rows. */
export class Measure {
  @IsIn(aggregates)
  aggregate!: Aggregate;

  @IsOptional()
  @IsString()
  @MaxLength(63)
  field?: string;

  /** How its figures are written; as plain numbers where it is left out. */
  @IsOptional()
  @Part(() => FigureFormat)
  format?: FigureFormat;
}

/** A measure's identity: `sum.passengers`, `count`. */
export const measureKey = ({ aggregate, field }: Measure) => (field ? `${aggregate}.${field}` : aggregate);

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
