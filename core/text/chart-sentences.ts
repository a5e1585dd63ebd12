import { type Board, leverOf } from '../board/board';
import { type Chart, windowAxes } from '../board/chart';
import { byOwnValues } from '../board/order';
import type { Split } from '../board/split';
import { isOff } from '../board/switch-off';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { kindOf } from '../levers/registry';
import { tell } from '../messages/desk';
import { asksPerMove, cubeRequest } from '../pipeline/cube-request';
import { dimensionText } from '../words/dimension-text';
import { aggregateText, measureText, orderText, seriesOrderText } from '../words/measure-text';
import { listed } from '../words/plural';
import { optionWord, type Part, type Sentence, sentenceParts } from '../words/sentence';
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
  return tell('shows.asked', { levers: listed([...new Set(names)], words.locale) });
}

/** ", split by fare type, one colour each, side by side, fare types from A to Z". */
const splitParts = (split: Split, stacks: boolean, words: Vocabulary): Part[] =>
  sentenceParts('shows.split', {
    split: { slot: 'split', text: dimensionText(split, words), value: split },
    colours: optionWord(tell('colours.label'), ['split', 'colours'], split.colours, [
      { value: 'own', text: tell('shows.ownColours'), note: tell('shows.whileNothing') },
      { value: 'one', text: tell('shows.oneColour') },
    ]),
    stacks: stacks ? 'yes' : 'no',
    arranged: optionWord(tell('shows.arrangement'), ['split', 'arrange'], split.arrange ?? 'beside', [
      { value: 'beside', text: tell('shows.beside') },
      { value: 'stacked', text: tell('shows.stacked') },
      { value: 'shares', text: tell('shows.shares') },
    ]),
    order: {
      slot: 'seriesOrder',
      text: seriesOrderText(split.order ?? byOwnValues, split, words),
      value: split.order,
    },
  });

function shows(chart: Chart, board: Board, words: Vocabulary): Sentence {
  const note = askedNote(chart, board, words);
  const form = formKinds.get(chart.form);
  return {
    id: 'shows',
    levers: [],
    ...(note ? { note } : {}),
    ...(form.round && chart.split
      ? {
          problem: tell('shows.slices', {
            categories: words.locale.plural(dimensionText(chart.by, words)),
          }),
        }
      : {}),
    parts: sentenceParts('shows', {
      form: { slot: 'form', text: form.word, value: chart.form },
      measure: { slot: 'measure', text: aggregateText(chart.measure, words), value: chart.measure },
      scatter: !form.against ? 'none' : chart.against ? 'measure' : 'category',
      against: {
        slot: 'against',
        text: chart.against ? measureText(chart.against, words) : tell('shows.perCategory'),
        value: chart.against,
      },
      by: { slot: 'by', text: dimensionText(chart.by, words), value: chart.by },
      split: chart.split ? splitParts(chart.split, form.stacks === true, words) : [],
      order: { slot: 'order', text: orderText(chart.order, chart.by, words), value: chart.order },
    }),
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
            problem: tell('window.other', {
              lever: lever?.name ?? id,
              known: source ? 'yes' : 'no',
              along: source ? dimensionText(source, words) : '',
              shown: dimensionText(chart.by, words),
            }),
          }),
      parts: sentenceParts('window', {
        lever: {
          slot: 'lever',
          label: tell('window.label'),
          path: ['lever'],
          text: lever?.name ?? id,
          value: id,
          ability: 'stretch',
        },
        axis: optionWord(tell('window.axis'), ['axis'], axis, [
          { value: windowAxes[0], text: tell('window.fitted') },
          { value: windowAxes[1], text: tell('window.fixed') },
        ]),
      }),
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
