import { IsOptional } from './validation';
import 'reflect-metadata/lite';
import { IsIn } from 'class-validator';
import { IsId } from './id';
import { Look } from './look';
import { Part } from './part';

export const comparedWith = ['touched', 'average', 'previous', 'year', 'whole'] as const;
export const comparedColours = ['two', 'growing'] as const;
export const comparedAs = ['difference', 'ratio', 'percent'] as const;

/** The looks of what is above and below, where the author says no others. */
export const comparedLooks = {
  above: { colour: 'kelp' },
  below: { colour: 'heather', hatch: true },
} as const satisfies Record<string, Look>;

/** Each mark shows how it stands against another figure, on an axis centred at zero. */
export class Compare {
  /** The reading that a lever names, the average, the period before, the same period a year before, or the whole. */
  @IsIn(comparedWith)
  with!: (typeof comparedWith)[number];

  /** What holds the reading that the others are compared with; while it holds nothing the chart is plain. */
  @IsOptional()
  @IsId()
  lever?: string;

  /** The difference itself, how many times the other figure it is, or percent of it. */
  @IsIn(comparedAs)
  as!: (typeof comparedAs)[number];

  /** How marks look that are above the other figure, and below it. */
  @IsOptional()
  @Part(() => Look)
  above?: Look;

  @IsOptional()
  @Part(() => Look)
  below?: Look;

  /** Two looks, or colours that grow stronger with the distance from the other figure; two where it is left out. */
  @IsOptional()
  @IsIn(comparedColours)
  colours?: (typeof comparedColours)[number];

  /** A missing reading counts as zero; left out, it stays missing, and so does its comparison. */
  @IsOptional()
  @IsIn(['stays', 'zero'])
  missing?: 'stays' | 'zero';
}
