import { IsNotEmpty, IsString, MaxLength, ValidateBy } from 'class-validator';
import { IsId, idPattern } from './id';

/** Where levers stood, by their ids, each as the words of an address: those that are left out stand at their start. */
export type MomentPositions = Record<string, string[]>;

const mostTexts = 10_000;
const areTexts = (value: unknown) =>
  Array.isArray(value) &&
  value.length <= mostTexts &&
  value.every((text) => typeof text === 'string' && text.length <= 1000);

const IsMomentPositions = () =>
  ValidateBy({
    name: 'isMomentPositions',
    validator: {
      validate: (value) =>
        typeof value === 'object' &&
        value !== null &&
        !Array.isArray(value) &&
        Object.entries(value).every(([lever, texts]) => idPattern.test(lever) && areTexts(texts)),
      defaultMessage: (args) =>
        `${args?.property} must name where levers stand as an address does: {"count": ["3"], "routes": ["Quel", "Harl"]}`,
    },
  });

/** Lever positions that are kept with a caption, to be stepped through while presenting. */
export class Moment {
  @IsId()
  id!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(300)
  caption!: string;

  @IsMomentPositions()
  at!: MomentPositions;
}
