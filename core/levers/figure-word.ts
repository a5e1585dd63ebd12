import { type Figure, isFormulaFigure, isLeverFigure, type ReadingFigure } from '../board/figure';
import type { LeverAbility } from '../board/lever-ability';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { numberText } from '../words/number-text';
import { ordinal } from '../words/plural';
import type { Word } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { shareText } from './figure-text';
import { kindOf } from './registry';

/** "the average", "the median", "the 90th percentile". */
export const readingFigureText = ({ of, percent }: ReadingFigure, locale: Locale): string =>
  say(locale, 'figure.reading', { of, order: ordinal(percent ?? 50, locale) });

/** How a figure reads: "1,200", "25 %", "Count", "the upper limit of Limits". */
export function figureText(figure: Figure, words: Vocabulary, share = false): string {
  if (typeof figure === 'number')
    return share ? shareText(0.001, figure, words.locale) : numberText(figure, words.locale);
  if (isFormulaFigure(figure)) return figure.text;
  if (!isLeverFigure(figure)) return readingFigureText(figure, words.locale);
  const lever = words.lever(figure.lever);
  const several = lever && (kindOf(lever).figures?.parts.length ?? 0) > 1;
  return say(words.locale, 'figure.lever', {
    part: (several && figure.part) || 'value',
    lever: lever?.name ?? figure.lever,
  });
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
