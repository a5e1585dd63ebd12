import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type Compare, comparedLooks } from '../board/compare';
import type { Look } from '../board/look';
import { sameDimension } from '../data/dimension';
import { formKinds } from '../forms/registry';
import { kindOf } from '../levers/registry';
import { compareOf } from '../pipeline/chart-rules';
import { dimensionText } from '../words/dimension-text';
import { optionWord, type Part, type Sentence, type Word } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { asTexts, withTexts } from './compared-text';
import { lookText } from './look-text';

/** Why the marks of a chart cannot be compared, in words. */
function problemOf(chart: Chart, compare: Compare, board: Board, words: Vocabulary): string | undefined {
  if (!compareOf(chart))
    return 'Only a chart of one measure is compared, whose marks stand side by side along an axis from zero.';
  const needsTime = compare.with === 'previous' || compare.with === 'year';
  if (needsTime && !chart.by.grain)
    return `There is no period before: each mark stands for ${dimensionText(chart.by, words)}.`;
  if (compare.with !== 'touched') return undefined;
  const lever = compare.lever === undefined ? undefined : leverOf(board, compare.lever);
  if (!lever) return 'No lever keeps which one is touched.';
  const source = kindOf(lever).source?.(lever);
  return kindOf(lever).values && source && sameDimension(source, chart.by)
    ? undefined
    : `${lever.name} does not hold what each mark here stands for: ${dimensionText(chart.by, words)}.`;
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
  const held: Part[] =
    compare.with === 'touched'
      ? [
          ' (kept in ',
          {
            slot: 'lever',
            label: 'Kept in',
            path: ['lever'],
            text: (compare.lever && leverOf(board, compare.lever)?.name) || 'no lever yet',
            value: compare.lever,
            ability: 'values',
          },
          ')',
        ]
      : [];
  return [
    {
      id: 'compare',
      levers: compare.lever ? [compare.lever] : [],
      part: ['compare'],
      ...(problem ? { problem } : {}),
      parts: [
        `Compares each ${form.markNoun} with `,
        optionWord(
          'Compared with',
          ['with'],
          compare.with,
          (Object.keys(withTexts) as Compare['with'][]).map((value) => ({
            value,
            text: value === 'touched' ? `the touched ${form.markNoun}` : withTexts[value],
          })),
        ),
        ...held,
        ' as ',
        optionWord(
          'As',
          ['as'],
          compare.as,
          (Object.keys(asTexts) as Compare['as'][]).map((value) => ({ value, text: asTexts[value] })),
        ),
        '; higher in ',
        look('Higher', 'above', compare.above ?? comparedLooks.above),
        ', lower in ',
        look('Lower', 'below', compare.below ?? comparedLooks.below),
        ', ',
        optionWord('Colours', ['colours'], compare.colours ?? 'two', [
          { value: 'two', text: 'one shade each' },
          { value: 'growing', text: 'stronger the farther away' },
        ]),
        '; missing values ',
        optionWord('Missing', ['missing'], compare.missing ?? 'stays', [
          { value: 'stays', text: 'stay missing' },
          { value: 'zero', text: 'count as zero' },
        ]),
        '.',
      ],
    },
  ];
}
