import { IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { IsId, idPattern, idSchema } from './id';
import { Own } from './validation';

/** Where levers stood, by their ids, each as the words of an address: those that are left out stand at their start. */
export type MomentPositions = Record<string, string[]>;

const mostTexts = 10_000;
const areTexts = (value: unknown) =>
  Array.isArray(value) &&
  value.length <= mostTexts &&
  value.every((text) => typeof text === 'string' && text.length <= 1000);

const IsMomentPositions = () =>
  Own({
    name: 'isMomentPositions',
    validate: (value) =>
      typeof value === 'object' &&
      value !== null &&
      !Array.isArray(value) &&
      Object.entries(value).every(([lever, texts]) => idPattern.test(lever) && areTexts(texts)),
    message: 'check.moment',
    schema: {
      type: 'object',
      propertyNames: idSchema,
      additionalProperties: {
        type: 'array',
        maxItems: mostTexts,
        items: { type: 'string', maxLength: 1000 },
      },
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
