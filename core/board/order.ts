import 'reflect-metadata/lite';
import { IsIn } from 'class-validator';

export const orderings = ['value', 'key', 'data'] as const;
export const directions = ['ascending', 'descending'] as const;

/** By the measure, by the category itself, or as the rows of the dataset first name them. */
export class Order {
  @IsIn(orderings)
  by!: (typeof orderings)[number];

  @IsIn(directions)
  direction!: (typeof directions)[number];
}

/** What series stand in where nothing else is said. */
export const byOwnValues: Order = { by: 'key', direction: 'ascending' };
