import { IsOptional, Own } from './validation';
import 'reflect-metadata/lite';
import { ArrayMaxSize, IsIn } from 'class-validator';
import { Category } from './category';
import { Look } from './look';
import { Order } from './order';
import { Part } from './part';

export const IsKeyValue = () =>
  Own({
    name: 'isKeyValue',
    validate: (value) => value === null || ['string', 'number', 'boolean'].includes(typeof value),
    message: 'check.keyValue',
    schema: { type: ['string', 'number', 'boolean', 'null'] },
  });

/** The look of one series, where its own is not to be taken from the palette. */
export class SeriesLook {
  @IsKeyValue()
  value!: string | number | boolean | null;

  @Part(() => Look)
  look!: Look;
}

export const splitColours = ['own', 'one'] as const;

export const arrangements = ['beside', 'stacked', 'shares'] as const;
/** How the series stand at a place: side by side, on each other, or as shares of one whole. */
export type Arrangement = (typeof arrangements)[number];

/** What parts a chart into series, and how they look. */
export class Split extends Category {
  /** While nothing is lit, each series in a colour of its own, or all in one. */
  @IsIn(splitColours)
  colours!: (typeof splitColours)[number];

  /** For bars and columns; left out, side by side. */
  @IsOptional()
  @IsIn(arrangements)
  arrange?: Arrangement;

  /** The order of the series, on the plot and in the legend; left out, by their values, rising. */
  @IsOptional()
  @Part(() => Order)
  order?: Order;

  @IsOptional()
  @ArrayMaxSize(500)
  @Part(() => SeriesLook, true)
  looks?: SeriesLook[];
}
