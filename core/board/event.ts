import { IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { isDateText } from '../data/periods';
import { IsId } from './id';
import { type LookColour, lookColours } from './look';
import { dateSchema, IsOptional, Own } from './validation';

const IsDay = () =>
  Own({
    name: 'isDay',
    validate: isDateText,
    message: 'check.day',
    schema: dateSchema,
  });

export const AreDays = () =>
  Own({
    name: 'areDays',
    validate: (value) => Array.isArray(value) && value.every(isDateText),
    message: 'check.days',
    schema: { type: 'array', items: dateSchema },
  });

/** Something that happened on a day: shared by the charts of a board. */
export class BoardEvent {
  @IsId()
  id!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(120)
  name!: string;

  @IsDay()
  date!: string;

  /** The colour of its line, and of the stretch that begins with it where that has no look of its own. */
  @IsOptional()
  @IsIn(lookColours)
  colour?: LookColour;
}

/** Events in the order of time; of those on one day, as they are listed. */
export const byDate = (events: readonly BoardEvent[]): BoardEvent[] =>
  [...events].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
