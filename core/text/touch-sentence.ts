import { type Board, leverOf } from '../board/board';
import { type Chart, type Gesture, gestures } from '../board/chart';
import { formKinds } from '../forms/registry';
import type { Clearing } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { dimensionTaken } from '../levers/touch-values';
import { tell } from '../messages/desk';
import { englishPlural } from '../messages/locale';
import { brushLever, canTouch } from '../pipeline/chart-rules';
import { dimensionText, keysText } from '../words/dimension-text';
import { optionWord, type Sentence, sentenceParts } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

export const clearingText = (clearing: Clearing): string => tell('clearing', { clearing });

/** Why what a gesture gives cannot be put into the lever. */
function touchProblem(chart: Chart, gesture: Gesture, lever: Lever, words: Vocabulary): string | undefined {
  const kind = kindOf(lever);
  const dimension = keysText(chart, words);
  if (!canTouch(chart, lever)) {
    const source = kind.source?.(lever);
    if (!kind.touch) return tell('touch.unmoved', { lever: lever.name });
    return tell('touch.other', {
      lever: lever.name,
      known: source ? 'yes' : 'no',
      holds: source ? dimensionText(source, words) : '',
      gives: dimension,
    });
  }
  if (gesture === 'legend' && (!chart.split || dimensionTaken(lever, chart) !== chart.split))
    return chart.split
      ? tell('touch.otherSeries', { gives: dimensionText(chart.split, words), lever: lever.name })
      : tell('touch.noSeries');
  if (gesture === 'drag' && kind.interval && !brushLever(chart, [lever]))
    return tell('touch.unsorted', { dimension });
  return undefined;
}

export function touchSentence(chart: Chart, index: number, board: Board, words: Vocabulary): Sentence {
  const touch = chart.touches[index]!;
  const lever = leverOf(board, touch.lever);
  const mark = formKinds.get(chart.form).markNoun;
  const problem = lever && touchProblem(chart, touch.gesture, lever, words);
  const gives =
    lever && kindOf(lever).touch?.takes === 'figure'
      ? tell('touch.value')
      : dimensionText(lever ? dimensionTaken(lever, chart) : chart.by, words);
  return {
    id: `touch-${index}`,
    levers: [touch.lever],
    part: ['touches', index],
    ...(problem ? { problem } : {}),
    parts: sentenceParts('touch', {
      gesture: optionWord(
        tell('touch.label'),
        ['gesture'],
        touch.gesture,
        gestures.map((gesture) => ({
          value: gesture,
          text: tell('touch.gesture', { gesture, mark, marks: englishPlural(mark) }),
        })),
      ),
      lever: { slot: 'lever', path: ['lever'], text: lever?.name ?? touch.lever, value: touch.lever },
      gives,
      back: tell('touch.back', { gesture: touch.gesture }),
      clearing: {
        slot: 'clearing',
        text: clearingText(lever?.clearing ?? 'empty'),
        value: lever?.clearing,
      },
    }),
  };
}
