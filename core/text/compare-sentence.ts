import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type Compare, comparedAs, comparedLooks, comparedWith } from '../board/compare';
import type { Look } from '../board/look';
import { sameDimension } from '../data/dimension';
import { formKinds } from '../forms/registry';
import { kindOf } from '../levers/registry';
import { tell } from '../messages/desk';
import { compareOf } from '../pipeline/chart-rules';
import { dimensionText } from '../words/dimension-text';
import { optionWord, type Sentence, sentenceParts, type Word } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { lookText } from './look-text';

/** Why the marks of a chart cannot be compared, in words. */
function problemOf(chart: Chart, compare: Compare, board: Board, words: Vocabulary): string | undefined {
  if (!compareOf(chart)) return tell('compare.unfit');
  const needsTime = compare.with === 'previous' || compare.with === 'year';
  if (needsTime && !chart.by.grain)
    return tell('compare.noTime', { dimension: dimensionText(chart.by, words) });
  if (compare.with !== 'touched') return undefined;
  const lever = compare.lever === undefined ? undefined : leverOf(board, compare.lever);
  if (!lever) return tell('compare.unkept');
  const source = kindOf(lever).source?.(lever);
  return kindOf(lever).values && source && sameDimension(source, chart.by)
    ? undefined
    : tell('compare.otherLever', { lever: lever.name, dimension: dimensionText(chart.by, words) });
}

/** What the marks of a chart are compared with, and how. */
export function compareSentence(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  const { compare } = chart;
  if (!compare) return [];
  const form = formKinds.get(chart.form);
  const problem = problemOf(chart, compare, board, words);
  const look = (label: string, path: string, value: Look): Word => ({
    slot: 'look',
    label,
    path: [path],
    text: lookText(value, words),
    value,
  });
  return [
    {
      id: 'compare',
      levers: compare.lever ? [compare.lever] : [],
      part: ['compare'],
      ...(problem ? { problem } : {}),
      parts: sentenceParts('compare', {
        mark: form.markNoun,
        with: optionWord(
          tell('compare.withLabel'),
          ['with'],
          compare.with,
          comparedWith.map((value) => ({
            value,
            text: tell('compare.reference', { with: value, mark: form.markNoun }),
          })),
        ),
        touched: compare.with === 'touched' ? 'yes' : 'no',
        lever: {
          slot: 'lever',
          label: tell('compare.keptIn'),
          path: ['lever'],
          text: (compare.lever && leverOf(board, compare.lever)?.name) || tell('compare.noLever'),
          value: compare.lever,
          ability: 'values',
        },
        as: optionWord(
          tell('compare.asLabel'),
          ['as'],
          compare.as,
          comparedAs.map((value) => ({ value, text: tell('compare.as', { as: value }) })),
        ),
        above: look(tell('compare.higher'), 'above', compare.above ?? comparedLooks.above),
        below: look(tell('compare.lower'), 'below', compare.below ?? comparedLooks.below),
        colours: optionWord(tell('colours.label'), ['colours'], compare.colours ?? 'two', [
          { value: 'two', text: tell('compare.oneShade') },
          { value: 'growing', text: tell('compare.growing') },
        ]),
        missing: optionWord(tell('compare.missing'), ['missing'], compare.missing ?? 'stays', [
          { value: 'stays', text: tell('compare.stays') },
          { value: 'zero', text: tell('compare.zero') },
        ]),
      }),
    },
  ];
}
