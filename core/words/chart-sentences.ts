import { type Board, leverOf } from '../board/board';
import { brushLever, type Chart, canTouch, type Gesture, windowAxes } from '../board/chart';
import type { Cue } from '../board/cue';
import { isNamedColour } from '../board/look';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { guideKinds } from '../guides/registry';
import { abilityText, leverCan } from '../levers/abilities';
import type { Clearing } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { nearestStrong, weakSpots } from '../looks/colour-check';
import { cutText } from './cut-text';
import { measureText, orderText } from './measure-text';
import { optionWord, type Part, type Sentence, under } from './sentence';
import type { Vocabulary } from './vocabulary';

const clearingTexts: Record<Clearing, string> = {
  keep: 'keeps it',
  start: 'puts it back to its start',
  empty: 'empties it',
};
const restingTexts = { plain: 'all plain', muted: 'all muted' } as const;

export const clearingText = (clearing: Clearing) => clearingTexts[clearing];
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

/** ", while Storms is on": the switch that must be on, once a sentence has one. */
const whenParts = (when: string | undefined, words: Vocabulary): Part[] =>
  when === undefined
    ? []
    : [
        ', while ',
        {
          slot: 'lever',
          label: 'Switch',
          path: ['when'],
          text: words.lever(when)?.name ?? when,
          value: when,
          ability: 'isOn',
        },
        ' is on',
      ];

/** What its levers cannot do, in words. */
function unable(
  needs: readonly { lever: string; ability: Parameters<typeof leverCan>[1] }[],
  board: Board,
): string | undefined {
  for (const { lever: id, ability } of needs) {
    const lever = leverOf(board, id);
    if (lever && !leverCan(lever, ability))
      return `${lever.name} cannot be used here: this needs a lever that ${abilityText(ability)}.`;
  }
  return undefined;
}

/** What is wrong with a colour of the author's own, and the nearest that would do. */
function weakColour(colour: string | undefined): string | null {
  if (!colour || isNamedColour(colour)) return null;
  const [first] = weakSpots(colour);
  if (!first) return null;
  return `${colour} hardly stands off what is muted on ${first.ground} ground, ${first.vision}: ${nearestStrong(colour)} would.`;
}

function cueSentence(cue: Cue, index: number, chart: Chart, board: Board, words: Vocabulary): Sentence {
  const condition = conditionKinds.get(cue.condition.kind);
  const meets = under(['condition'], condition.parts(cue.condition, words));
  const effect = (text: string): Part => ({ slot: 'effect', text, value: cue.effect });
  const needs = condition.needs?.(cue.condition) ?? [];
  const cannot =
    unable(needs, board) ??
    (cue.effect === 'light'
      ? condition.unfit(cue.condition, chart.by, (id) => leverOf(board, id), words)
      : condition.filters(cue.condition, (id) => leverOf(board, id)) === null
        ? 'This can light marks, not keep rows: it is about readings.'
        : null) ??
    (cue.effect === 'light' ? weakColour(cue.look.colour) : null);
  const base = {
    id: `cue-${cue.id}`,
    levers: [...condition.levers(cue.condition), ...(cue.when ? [cue.when] : [])],
    part: ['cues', index],
    ...(cannot ? { problem: cannot } : {}),
  };
  const rest = condition.restText;
  const when = whenParts(cue.when, words);
  if (cue.effect === 'filter')
    return {
      ...base,
      parts: [
        effect('Keeps only'),
        ' rows ',
        ...meets,
        ...when,
        ...(rest ? [`; while ${rest}, all rows.`] : ['.']),
      ],
    };
  return {
    ...base,
    parts: [
      effect('Lights'),
      ` ${formKinds.get(chart.form).noun} `,
      ...meets,
      { slot: 'join', text: '+', path: ['condition'], value: cue.condition },
      ...when,
      ', in ',
      { slot: 'look', text: lookText(cue.look), value: cue.look },
      ', and mutes the rest',
      ...(rest
        ? [
            `; while ${rest}, `,
            { slot: 'resting', text: restingText(cue.resting), value: cue.resting } as const,
          ]
        : []),
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
            problem: `${lever?.name ?? id} moves along ${source ? cutText(source, words) : 'something else'}, and each mark here stands for ${cutText(chart.by, words)}.`,
          }),
      parts: [
        'Has in view what is in ',
        {
          slot: 'lever',
          label: 'Window',
          path: ['lever'],
          text: lever?.name ?? id,
          value: id,
          ability: 'stretch',
        },
        ', its axis ',
        optionWord('Axis', ['axis'], axis, [
          { value: windowAxes[0], text: 'following what is in view' },
          { value: windowAxes[1], text: 'fixed over all there is' },
        ]),
        '.',
      ],
    },
  ];
}

const gestureTexts: Record<Gesture, (mark: string) => string> = {
  click: (mark) => `a click on a ${mark}`,
  hover: (mark) => `the pointer on a ${mark}`,
  drag: (mark) => `a drag across ${mark}s`,
};
const clearingGesture: Record<Gesture, string> = {
  click: 'a click on empty ground',
  hover: 'the pointer leaving',
  drag: 'a double click',
};

/** Why what a gesture gives cannot be put into the lever. */
function touchProblem(chart: Chart, gesture: Gesture, lever: Lever, words: Vocabulary): string | undefined {
  const kind = kindOf(lever);
  const cut = cutText(chart.by, words);
  if (!canTouch(chart, lever)) {
    const source = kind.source?.(lever);
    if (!kind.touch) return `${lever.name} is not moved by touching marks.`;
    return `${lever.name} holds ${source ? cutText(source, words) : 'something else'}, and a mark here gives its ${cut}.`;
  }
  if (gesture === 'drag' && kind.interval && !brushLever(chart, [lever]))
    return `To brush a stretch the marks must stand in rising order of ${cut}.`;
  return undefined;
}

function touchSentence(chart: Chart, index: number, board: Board, words: Vocabulary): Sentence {
  const touch = chart.touches[index]!;
  const lever = leverOf(board, touch.lever);
  const mark = formKinds.get(chart.form).markNoun;
  const problem = lever && touchProblem(chart, touch.gesture, lever, words);
  const gives = lever && kindOf(lever).touch?.takes === 'figure' ? 'figure' : cutText(chart.by, words);
  return {
    id: `touch-${index}`,
    levers: [touch.lever],
    part: ['touches', index],
    ...(problem ? { problem } : {}),
    parts: [
      'Answers ',
      optionWord(
        'Gesture',
        ['gesture'],
        touch.gesture,
        (['click', 'hover', 'drag'] as const).map((value) => ({ value, text: gestureTexts[value](mark) })),
      ),
      ` by putting its ${gives} into `,
      { slot: 'lever', path: ['lever'], text: lever?.name ?? touch.lever, value: touch.lever },
      `; ${clearingGesture[touch.gesture]} `,
      { slot: 'clearing', text: clearingText(lever?.clearing ?? 'empty'), value: lever?.clearing },
      '.',
    ],
  };
}

/** Everything a chart does, one sentence each, in the order in which it matters. */
export function chartSentences(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  return [
    shows(chart, words),
    ...windowSentence(chart, board, words),
    ...chart.cues.map((cue, i) => cueSentence(cue, i, chart, board, words)),
    ...chart.guides.map((guide, index): Sentence => {
      const kind = guideKinds.get(guide.kind);
      const problem = unable(kind.needs(guide), board);
      const parts = kind.parts(guide, words);
      return {
        id: `guide-${guide.id}`,
        levers: [...kind.levers(guide), ...(guide.when ? [guide.when] : [])],
        part: ['guides', index],
        ...(problem ? { problem } : {}),
        parts: guide.when ? [...parts.slice(0, -1), ...whenParts(guide.when, words), '.'] : parts,
      };
    }),
    ...chart.touches.map((_, i) => touchSentence(chart, i, board, words)),
  ];
}
