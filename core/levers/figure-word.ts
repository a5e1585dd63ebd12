import { type Figure, isFormulaFigure, isLeverFigure, type ReadingFigure } from '../board/figure';
import type { LeverAbility } from '../board/lever-ability';
import { numberText } from '../words/number-text';
import { ordinal } from '../words/plural';
import type { Word } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { shareText } from './figure-text';
import { kindOf } from './registry';

const partTexts: Record<string, string> = {
  low: 'the lower limit of ',
  high: 'the upper limit of ',
  value: '',
};

/** "the average", "the median", "the 90th percentile". */
export const readingFigureText = ({ of, percent }: ReadingFigure) =>
  of === 'percentile'
    ? `the ${ordinal(percent ?? 50)} percentile`
    : of === 'mean'
      ? 'the average'
      : `the ${of}`;

/** How a figure reads: "1,200", "25 %", "Count", "the upper limit of Limits". */
export function figureText(figure: Figure, words: Vocabulary, share = false): string {
  if (typeof figure === 'number') return share ? shareText(0.001, figure) : numberText(figure);
  if (isFormulaFigure(figure)) return figure.text;
  if (!isLeverFigure(figure)) return readingFigureText(figure);
  const lever = words.lever(figure.lever);
  const several = lever && (kindOf(lever).figures?.parts.length ?? 0) > 1;
  return `${several ? (partTexts[figure.part ?? ''] ?? '') : ''}${lever?.name ?? figure.lever}`;
}

/** A figure as a word of a sentence: written, or taken from a lever that has the ability. */
export const figureWord = (
  label: string,
  path: (string | number)[],
  figure: Figure,
  words: Vocabulary,
  ability: LeverAbility = 'figure',
): Word => ({
  slot: 'figure',
  label,
  path,
  text: figureText(figure, words, ability === 'share'),
  value: figure,
  ability,
});
