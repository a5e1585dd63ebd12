import { type Board, leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { sameCut } from '../grain';
import { guideKinds } from '../guides/registry';
import { cutText } from './cut-text';
import { measureText, orderText } from './measure-text';
import type { Part, Sentence } from './sentence';
import type { Vocabulary } from './vocabulary';

const clearingTexts = { keep: 'keeps it', start: 'puts it back to its start', empty: 'empties it' } as const;
const restingTexts = { plain: 'all plain', muted: 'all muted' } as const;

export const clearingText = (clearing: keyof typeof clearingTexts) => clearingTexts[clearing];
export const restingText = (resting: keyof typeof restingTexts) => restingTexts[resting];

/** "ember", "kelp, outlined", "slate, hatched". */
export const lookText = (look: Cue['look']) =>
  [look.colour ?? 'its own colour', look.outline && 'outlined', look.hatch && 'hatched']
    .filter(Boolean)
    .join(', ');

function shows(chart: Chart, words: Vocabulary): Sentence {
  const form = formKinds.get(chart.form);
  return {
    id: 'shows',
    levers: [],
    parts: [
      'Shows ',
      { slot: 'form', text: form.noun, value: chart.form },
      ' of ',
      { slot: 'measure', text: measureText(chart.measure, words), value: chart.measure },
      ' for each ',
      { slot: 'by', text: cutText(chart.by, words), value: chart.by },
      ', ',
      { slot: 'order', text: orderText(chart.order, chart, words), value: chart.order },
      '.',
    ],
  };
}

function cueSentence(cue: Cue, index: number, chart: Chart, board: Board, words: Vocabulary): Sentence {
  const condition = conditionKinds.get(cue.condition.kind);
  const meets = condition.parts(cue.condition, words);
  const effect = (text: string): Part => ({ slot: 'effect', text, value: cue.effect });
  const base = {
    id: `cue-${cue.id}`,
    levers: condition.levers(cue.condition),
    part: { list: 'cues', index } as const,
  };
  if (cue.effect === 'filter')
    return { ...base, parts: [effect('Keeps only'), ' rows ', ...meets, '; with nothing picked, all rows.'] };
  const problem = condition.unfit(cue.condition, chart.by, (id) => leverOf(board, id), words);
  return {
    ...base,
    ...(problem ? { problem } : {}),
    parts: [
      effect('Lights'),
      ` ${formKinds.get(chart.form).noun} `,
      ...meets,
      ', in ',
      { slot: 'look', text: lookText(cue.look), value: cue.look },
      ', and mutes the rest; with nothing picked, ',
      { slot: 'resting', text: restingText(cue.resting), value: cue.resting },
      '.',
    ],
  };
}

function touchSentence(chart: Chart, index: number, words: Vocabulary): Sentence {
  const touch = chart.touches[index]!;
  const lever = words.lever(touch.lever);
  const mark = formKinds.get(chart.form).markNoun;
  return {
    id: `touch-${index}`,
    levers: [touch.lever],
    part: { list: 'touches', index },
    ...(lever && !sameCut(lever, chart.by)
      ? {
          problem: `${lever.name} picks ${cutText(lever, words)}, and a click here gives ${cutText(chart.by, words)}.`,
        }
      : {}),
    parts: [
      `Answers a click on a ${mark} by putting its ${cutText(chart.by, words)} into `,
      { slot: 'lever', text: lever?.name ?? touch.lever, value: touch.lever },
      '; a click on empty ground ',
      { slot: 'clearing', text: clearingText(lever?.clearing ?? 'empty'), value: lever?.clearing },
      '.',
    ],
  };
}

/** Everything a chart does, one sentence each, in the order in which it matters. */
export function chartSentences(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  return [
    shows(chart, words),
    ...chart.cues.map((cue, i) => cueSentence(cue, i, chart, board, words)),
    ...chart.guides.map(
      (guide, index): Sentence => ({
        id: `guide-${guide.id}`,
        levers: [],
        part: { list: 'guides', index },
        parts: guideKinds.get(guide.kind).parts(guide),
      }),
    ),
    ...chart.touches.map((_, i) => touchSentence(chart, i, words)),
  ];
}
