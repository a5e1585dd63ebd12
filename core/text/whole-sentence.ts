import { type Board, leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { figureLevers, figureNeeds } from '../board/figure';
import type { Whole } from '../board/whole';
import { figuresProblem } from '../conditions/figures-problem';
import { formKinds } from '../forms/registry';
import { figureWord } from '../levers/figure-word';
import { fillsUp } from '../pipeline/chart-rules';
import { measureText } from '../words/measure-text';
import { optionWord, type Part, type Sentence } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { unable } from './sentence-needs';

const wholeTexts: Record<Whole['of'], string> = {
  everything: 'the grand total',
  filters: 'the filtered total',
  largest: 'the largest value',
  measure: 'a measure of its own',
  figure: 'a value',
};

export const wholeText = (of: Whole['of']) => wholeTexts[of];

export function wholeSentence(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  const { whole } = chart;
  if (!whole) return [];
  const levers = figureLevers(whole.figure);
  const problem =
    unable(figureNeeds('figure', whole.figure), board) ??
    figuresProblem(whole.figure, (id) => leverOf(board, id), words) ??
    (fillsUp(chart) ? undefined : 'Only single or stacked bars and columns can be extended.');
  return [
    {
      id: 'whole',
      levers,
      part: ['whole'],
      ...(problem ? { problem } : {}),
      parts: [
        `Extends each ${formKinds.get(chart.form).markNoun} to `,
        {
          slot: 'whole',
          text: wholeTexts[whole.of],
          value: whole,
        },
        ...(whole.of === 'figure' ? [', ', figureWord('Value', ['figure'], whole.figure ?? 0, words)] : []),
        ...(whole.of === 'measure'
          ? ([
              ', ',
              {
                slot: 'alsoMeasure',
                label: 'Measure of the whole',
                path: ['measure'],
                text: measureText(whole.measure!, words),
                value: whole.measure,
              },
              ' over ',
              optionWord('Over', ['over'], whole.over ?? 'kept', [
                { value: 'kept', text: 'the filtered rows' },
                { value: 'everything', text: 'all rows' },
              ]),
            ] satisfies Part[])
          : []),
        ' with a muted part.',
      ],
    },
  ];
}
