import { IsIn, IsNotEmpty, IsOptional, IsString, MaxLength, ValidateBy } from 'class-validator';
import { isDateText } from '../data/periods';
import { IsId } from './id';
import { type LookColour, lookColours } from './look';

const IsDay = () =>
  ValidateBy({
    name: 'isDay',
    validator: {
      validate: isDateText,
      defaultMessage: (args) => `${args?.property} must be a date that exists: 2021-05-01`,
    },
  });

export const AreDays = () =>
  ValidateBy({
    name: 'areDays',
    validator: {
      validate: (value) => Array.isArray(value) && value.every(isDateText),
      defaultMessage: (args) => `${args?.property} must be a list of dates: ["2024-12-25"]`,
    },
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
