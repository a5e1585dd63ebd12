import { IsOptional } from './validation';
import 'reflect-metadata/lite';
import { IsString, MaxLength } from 'class-validator';
import { IsId } from './id';
import { Place } from './layout';
import { Part } from './part';

/** A text on a board, in Markdown; `{lever}` stands for what that lever holds. */
export class Note {
  @IsId()
  id!: string;

  @IsString()
  @MaxLength(10_000)
  text!: string;

  /** Where it lies on the grid of the board; left out, after what comes before it. */
  @IsOptional()
  @Part(() => Place)
  place?: Place;
}
