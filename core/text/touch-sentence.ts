import { type Board, leverOf } from '../board/board';
import { type Chart, type Gesture, gestures } from '../board/chart';
import { formKinds } from '../forms/registry';
import type { Clearing } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { dimensionTaken } from '../levers/touch-values';
import { brushLever, canTouch } from '../pipeline/chart-rules';
import { dimensionText, keysText } from '../words/dimension-text';
import { englishPlural } from '../words/locale';
import { optionWord, type Sentence } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

const clearingTexts: Record<Clearing, string> = {
  keep: 'keeps it',
  start: 'resets it to its start',
  empty: 'clears it',
};

export const clearingText = (clearing: Clearing) => clearingTexts[clearing];

const gestureTexts: Record<Gesture, (mark: string) => string> = {
  click: (mark) => `a click on a ${mark}`,
  hover: (mark) => `the pointer on a ${mark}`,
  drag: (mark) => `a drag across ${englishPlural(mark)}`,
  legend: () => 'a click on a name in the legend',
};
const clearingGesture: Record<Gesture, string> = {
  click: 'a click on the background',
  hover: 'the pointer leaving',
  drag: 'a double click',
  legend: 'a second click on it',
};

/** Why what a gesture gives cannot be put into the lever. */
function touchProblem(chart: Chart, gesture: Gesture, lever: Lever, words: Vocabulary): string | undefined {
  const kind = kindOf(lever);
  const dimension = keysText(chart, words);
  if (!canTouch(chart, lever)) {
    const source = kind.source?.(lever);
    if (!kind.touch) return `${lever.name} is not moved by touching marks.`;
    return `${lever.name} holds ${source ? dimensionText(source, words) : 'something else'}, and a mark here gives its ${dimension}.`;
  }
  if (gesture === 'legend' && (!chart.split || dimensionTaken(lever, chart) !== chart.split))
    return chart.split
      ? `A name in the legend gives its ${dimensionText(chart.split, words)}, and ${lever.name} does not hold that.`
      : 'There are no names of series here: the chart is not split into any.';
  if (gesture === 'drag' && kind.interval && !brushLever(chart, [lever]))
    return `Dragging across needs the marks sorted by ${dimension}, ascending.`;
  return undefined;
}

export function touchSentence(chart: Chart, index: number, board: Board, words: Vocabulary): Sentence {
  const touch = chart.touches[index]!;
  const lever = leverOf(board, touch.lever);
  const mark = formKinds.get(chart.form).markNoun;
  const problem = lever && touchProblem(chart, touch.gesture, lever, words);
  const gives =
    lever && kindOf(lever).touch?.takes === 'figure'
      ? 'value'
      : dimensionText(lever ? dimensionTaken(lever, chart) : chart.by, words);
  return {
    id: `touch-${index}`,
    levers: [touch.lever],
    part: ['touches', index],
    ...(problem ? { problem } : {}),
    parts: [
      'On ',
      optionWord(
        'Gesture',
        ['gesture'],
        touch.gesture,
        gestures.map((value) => ({ value, text: gestureTexts[value](mark) })),
      ),
      ', sets ',
      { slot: 'lever', path: ['lever'], text: lever?.name ?? touch.lever, value: touch.lever },
      ` to its ${gives}; ${clearingGesture[touch.gesture]} `,
      { slot: 'clearing', text: clearingText(lever?.clearing ?? 'empty'), value: lever?.clearing },
      '.',
    ],
  };
}
