import { ValidateBy } from 'class-validator';
import { idPattern } from './id';

/** A figure in a sentence: written by the author, or what a lever holds (`part` for a lever that holds two). */
export type Figure = number | LeverFigure;

export interface LeverFigure {
  lever: string;
  part?: string;
}

const isFigure = (value: unknown): value is Figure => {
  if (typeof value === 'number') return Number.isFinite(value);
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  const { lever, part, ...rest } = value as Record<string, unknown>;
  return (
    typeof lever === 'string' &&
    idPattern.test(lever) &&
    (part === undefined || part === 'value' || part === 'low' || part === 'high') &&
    Object.keys(rest).length === 0
  );
};

export const IsFigure = () =>
  ValidateBy({
    name: 'isFigure',
    validator: {
      validate: isFigure,
      defaultMessage: (args) =>
        `${args?.property} must be a number, or a lever's figure such as {"lever": "limits", "part": "high"}`,
    },
  });

/** The lever a figure is taken from, if it is. */
export const figureLevers = (...figures: (Figure | undefined)[]): string[] =>
  figures.flatMap((figure) => (typeof figure === 'object' ? [figure.lever] : []));
