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
  everything: 'the total of everything',
  filters: 'the total of what is kept',
  largest: 'the largest',
  measure: 'a measure of its own',
  figure: 'a figure',
};

export const wholeText = (of: Whole['of']) => wholeTexts[of];

export function wholeSentence(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  const { whole } = chart;
  if (!whole) return [];
  const levers = figureLevers(whole.figure);
  const problem =
    unable(figureNeeds('figure', whole.figure), board) ??
    figuresProblem(whole.figure, (id) => leverOf(board, id), words) ??
    (fillsUp(chart) ? undefined : 'Only single or stacked bars and columns can be filled up.');
  return [
    {
      id: 'whole',
      levers,
      part: ['whole'],
      ...(problem ? { problem } : {}),
      parts: [
        `Fills each ${formKinds.get(chart.form).markNoun} up to `,
        {
          slot: 'whole',
          text: wholeTexts[whole.of],
          value: whole,
        },
        ...(whole.of === 'figure' ? [', ', figureWord('Figure', ['figure'], whole.figure ?? 0, words)] : []),
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
                { value: 'kept', text: 'what is kept' },
                { value: 'everything', text: 'everything there is' },
              ]),
            ] satisfies Part[])
          : []),
        ', with a muted part.',
      ],
    },
  ];
}
