import { type Board, leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { figureLevers, figureNeeds } from '../board/figure';
import type { Whole } from '../board/whole';
import { figuresProblem } from '../conditions/figures-problem';
import { formKinds } from '../forms/registry';
import { figureWord } from '../levers/figure-word';
import { tell } from '../messages/desk';
import { fillsUp } from '../pipeline/chart-rules';
import { measureText } from '../words/measure-text';
import { optionWord, type Sentence, sentenceParts } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { unable } from './sentence-needs';

export const wholeText = (of: Whole['of']): string => tell('whole.of', { of });

export function wholeSentence(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  const { whole } = chart;
  if (!whole) return [];
  const levers = figureLevers(whole.figure);
  const problem =
    unable(figureNeeds('figure', whole.figure), board) ??
    figuresProblem(whole.figure, (id) => leverOf(board, id), words) ??
    (fillsUp(chart) ? undefined : tell('whole.unfit'));
  return [
    {
      id: 'whole',
      levers,
      part: ['whole'],
      ...(problem ? { problem } : {}),
      parts: sentenceParts('whole', {
        mark: formKinds.get(chart.form).markNoun,
        whole: { slot: 'whole', text: wholeText(whole.of), value: whole },
        of: whole.of,
        figure: figureWord(tell('whole.value'), ['figure'], whole.figure ?? 0, words),
        measure: whole.measure
          ? {
              slot: 'alsoMeasure',
              label: tell('whole.measure'),
              path: ['measure'],
              text: measureText(whole.measure, words),
              value: whole.measure,
            }
          : '',
        over: optionWord(tell('whole.over'), ['over'], whole.over ?? 'kept', [
          { value: 'kept', text: tell('whole.filteredRows') },
          { value: 'everything', text: tell('whole.allRows') },
        ]),
      }),
    },
  ];
}
