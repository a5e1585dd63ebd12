import { leversIn } from '@sorvik/formula/lever-names';
import { idPattern, idSchema } from './id';
import type { LeverAbility } from './lever-ability';
import { closedObject, Own, oneOf } from './validation';

/**
 * A figure in a sentence: written by the author, what a lever holds (`part` for a lever that holds two), one of the
 * readings in view, or what a formula makes of them and of levers.
 */
export type Figure = number | LeverFigure | ReadingFigure | FormulaFigure;

/** A formula over the readings in view, taken together: `AVG(value) + 2 * STDDEV_SAMP(value)`. */
export interface FormulaFigure {
  text: string;
}

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

const longestFormula = 10_000;

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
  if ('text' in value) {
    const { text, ...rest } = value as Record<string, unknown>;
    return (
      typeof text === 'string' && text !== '' && text.length <= longestFormula && !Object.keys(rest).length
    );
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
  Own({
    name: 'isFigure',
    validate: isFigure,
    message: 'check.figure',
    schema: {
      anyOf: [
        { type: 'number' },
        closedObject({ lever: idSchema, part: oneOf('value', 'low', 'high') }, ['lever']),
        closedObject({ text: { type: 'string', minLength: 1, maxLength: longestFormula } }),
        closedObject({ of: oneOf('mean', 'median') }),
        closedObject({ of: oneOf('percentile'), percent: { type: 'number', minimum: 0, maximum: 100 } }),
      ],
    },
  });

/** Whether somebody set it, here or by a lever; else it is computed. */
export const isSetFigure = (figure: Figure): boolean => typeof figure === 'number' || isLeverFigure(figure);

export const isLeverFigure = (figure: Figure | undefined): figure is LeverFigure =>
  typeof figure === 'object' && 'lever' in figure;

export const isFormulaFigure = (figure: unknown): figure is FormulaFigure =>
  typeof figure === 'object' && figure !== null && 'text' in figure && Object.keys(figure).length === 1;

/** The levers that figures are taken from, or that their formulas name. */
export const figureLevers = (...figures: (Figure | undefined)[]): string[] =>
  figures.flatMap((figure) =>
    isLeverFigure(figure) ? [figure.lever] : isFormulaFigure(figure) ? leversIn(figure.text) : [],
  );

/** What the levers that figures are taken from must be able to do; a formula says itself what it needs of its own. */
export const figureNeeds = (
  ability: LeverAbility,
  ...figures: (Figure | undefined)[]
): { lever: string; ability: LeverAbility }[] =>
  figures.filter(isLeverFigure).map(({ lever }) => ({ lever, ability }));

/** The formulas of figures, anywhere in a part of a chart. */
export function figureFormulas(part: unknown): string[] {
  if (typeof part !== 'object' || part === null) return [];
  if (isFormulaFigure(part)) return typeof part.text === 'string' ? [part.text] : [];
  return Object.values(part).flatMap(figureFormulas);
}
