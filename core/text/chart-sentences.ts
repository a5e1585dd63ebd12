import { type Board, leverOf } from '../board/board';
import { type Chart, windowAxes } from '../board/chart';
import { byOwnValues } from '../board/order';
import { isOff } from '../board/switch-off';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { kindOf } from '../levers/registry';
import { asksPerMove, cubeRequest } from '../pipeline/cube-request';
import { dimensionText } from '../words/dimension-text';
import { aggregateText, measureText, orderText, seriesOrderText } from '../words/measure-text';
import { listed } from '../words/plural';
import { optionWord, type Sentence } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { compareSentence } from './compare-sentence';
import { cueSentence } from './cue-sentence';
import { guideSentence } from './guide-sentence';
import { plotSentences } from './plot-sentences';
import { restSentences } from './rest-sentences';
import { touchSentence } from './touch-sentence';
import { wholeSentence } from './whole-sentence';

/** That figures which cannot be added up are asked for anew with each move of the levers that filter. */
function askedNote(chart: Chart, board: Board, words: Vocabulary): string | undefined {
  if (!asksPerMove(cubeRequest(chart, board, words.engine))) return undefined;
  const names = chart.cues.flatMap(({ effect, off, condition }) =>
    effect === 'filter' && !off
      ? conditionKinds
          .get(condition.kind)
          .levers(condition)
          .map((id) => words.lever(id)?.name ?? id)
      : [],
  );
  if (!names.length) return undefined;
  return `This measure is recalculated by the database each time ${listed([...new Set(names)], words.locale)} moves, so it is slower.`;
}

function shows(chart: Chart, board: Board, words: Vocabulary): Sentence {
  const note = askedNote(chart, board, words);
  const form = formKinds.get(chart.form);
  return {
    id: 'shows',
    levers: [],
    ...(note ? { note } : {}),
    ...(form.round && chart.split
      ? {
          problem: `The slices of a donut are its ${words.locale.plural(dimensionText(chart.by, words))}: it is not split any further.`,
        }
      : {}),
    parts: [
      'Shows ',
      { slot: 'form', text: form.word, value: chart.form },
      ' of ',
      { slot: 'measure', text: aggregateText(chart.measure, words), value: chart.measure },
      ...(form.against
        ? [
            chart.against ? ' against ' : ' ',
            {
              slot: 'against',
              text: chart.against ? measureText(chart.against, words) : 'per category',
              value: chart.against,
            } as const,
          ]
        : []),
      ' by ',
      { slot: 'by', text: dimensionText(chart.by, words), value: chart.by },
      ...(chart.split
        ? [
            ', split by ',
            { slot: 'split', text: dimensionText(chart.split, words), value: chart.split } as const,
            ', ',
            optionWord('Colours', ['split', 'colours'], chart.split.colours, [
              { value: 'own', text: 'one colour each', note: 'while nothing is lit' },
              { value: 'one', text: 'all in one colour' },
            ]),
            ...(form.stacks
              ? [
                  ', ',
                  optionWord('Arrangement', ['split', 'arrange'], chart.split.arrange ?? 'beside', [
                    { value: 'beside', text: 'side by side' },
                    { value: 'stacked', text: 'stacked' },
                    { value: 'shares', text: 'stacked to 100%' },
                  ]),
                ]
              : []),
            ', ',
            {
              slot: 'seriesOrder',
              text: seriesOrderText(chart.split.order ?? byOwnValues, chart.split, words),
              value: chart.split.order,
            } as const,
          ]
        : []),
      ', ',
      { slot: 'order', text: orderText(chart.order, chart.by, words), value: chart.order },
      '.',
    ],
  };
}

function windowSentence(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  if (!chart.window) return [];
  const { lever: id, axis } = chart.window;
  const lever = leverOf(board, id);
  const source = lever && kindOf(lever).source?.(lever);
  const fits = source && source.field === chart.by.field && source.grain === chart.by.grain;
  return [
    {
      id: 'window',
      levers: [id],
      part: ['window'],
      ...(fits
        ? {}
        : {
            problem: `${lever?.name ?? id} moves along ${source ? dimensionText(source, words) : 'something else'}, and this chart shows ${dimensionText(chart.by, words)}.`,
          }),
      parts: [
        'Shows the part of the axis chosen with ',
        {
          slot: 'lever',
          label: 'Window',
          path: ['lever'],
          text: lever?.name ?? id,
          value: id,
          ability: 'stretch',
        },
        '; value axis ',
        optionWord('Axis', ['axis'], axis, [
          { value: windowAxes[0], text: 'fitted to the visible part' },
          { value: windowAxes[1], text: 'fixed to all data' },
        ]),
        '.',
      ],
    },
  ];
}

/** Everything a chart does, one sentence each, in the order in which it matters; what is switched off says so. */
export function chartSentences(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  return allSentences(chart, board, words).map((sentence) => {
    if (!isOff(chart, sentence)) return sentence;
    const { problem: _problem, note: _note, ...rest } = sentence;
    return { ...rest, off: true };
  });
}

function allSentences(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  return [
    shows(chart, board, words),
    ...plotSentences(chart, words),
    ...wholeSentence(chart, board, words),
    ...compareSentence(chart, board, words),
    ...windowSentence(chart, board, words),
    ...chart.cues.map((cue, i) => cueSentence(cue, i, chart, board, words)),
    ...restSentences(chart, board),
    ...chart.guides.map((guide, i) => guideSentence(guide, i, chart, board, words)),
    ...chart.touches.map((_, i) => touchSentence(chart, i, board, words)),
  ];
}
