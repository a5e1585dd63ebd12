import { ValidateBy } from 'class-validator';
import { idPattern } from './id';

/**
 * A figure in a sentence: written by the author, what a lever holds (`part` for a lever that holds two), or one of the
 * readings in view.
 */
export type Figure = number | LeverFigure | ReadingFigure;

export const readingFigures = ['mean', 'median', 'percentile'] as const;

export interface ReadingFigure {
  of: (typeof readingFigures)[number];
  /** For a percentile: 0 to 100. */
  percent?: number;
}

export interface LeverFigure {
  lever: string;
  part?: string;
}

const isFigure = (value: unknown): value is Figure => {
  if (typeof value === 'number') return Number.isFinite(value);
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  if ('of' in value) {
    const { of, percent, ...rest } = value as Record<string, unknown>;
    const fits =
      of === 'percentile'
        ? typeof percent === 'number' && percent >= 0 && percent <= 100
        : percent === undefined;
    return readingFigures.includes(of as never) && fits && Object.keys(rest).length === 0;
  }
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
        `${args?.property} must be a number, or a lever's figure such as {"lever": "limits", "part": "high"}, or one of the readings such as {"of": "median"}`,
    },
  });

export const isLeverFigure = (figure: Figure | undefined): figure is LeverFigure =>
  typeof figure === 'object' && 'lever' in figure;

/** The lever a figure is taken from, if it is. */
export const figureLevers = (...figures: (Figure | undefined)[]): string[] =>
  figures.flatMap((figure) => (isLeverFigure(figure) ? [figure.lever] : []));
