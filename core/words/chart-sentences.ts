import { type Board, leverOf, toneOf } from '../board/board';
import {
  againstOf,
  alsoOf,
  brushLever,
  type Chart,
  canTouch,
  eachItsOwn,
  fillsUp,
  type Gesture,
  gestures,
  windowAxes,
} from '../board/chart';
import { type Cue, type CueResting, isStandIn } from '../board/cue';
import { figureLevers, figureNeeds } from '../board/figure';
import { type Colour, isNamedColour, isValueColour, type Look, seriesColour } from '../board/look';
import { type LabelRule, labelRules, type MutedTone } from '../board/otherwise';
import { isOff } from '../board/switch-off';
import type { Whole } from '../board/whole';
import { conditionKinds } from '../conditions/registry';
import { asksPerMove, cubeRequest } from '../cube/cube-request';
import { formKinds } from '../forms/registry';
import { type Guide, guideKinds } from '../guides/registry';
import { abilityText, leverCan } from '../levers/abilities';
import { cutTaken } from '../levers/gift';
import type { Clearing } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { nearestStrong, weakSpots } from '../looks/colour-check';
import { mostOwnColours } from '../looks/series-looks';
import { compareSentence } from './compare-sentence';
import { cutText, keysText } from './cut-text';
import { figureWord } from './figure-word';
import { figuresProblem } from './figures-problem';
import { keyText } from './key-text';
import { lookText } from './look-text';
import { aggregateText, measureText, orderText } from './measure-text';
import { plotSentences } from './plot-sentences';
import { listed, plural } from './plural';
import { optionWord, type Part, type Sentence, under } from './sentence';
import type { Vocabulary } from './vocabulary';

const clearingTexts: Record<Clearing, string> = {
  keep: 'keeps it',
  start: 'puts it back to its start',
  empty: 'empties it',
};

export const wholeText = (of: Whole['of']) => wholeTexts[of];
export const clearingText = (clearing: Clearing) => clearingTexts[clearing];

/** "all plain", "as with Quel picked". */
export function restingText(resting: CueResting, words: Vocabulary): string {
  if (!isStandIn(resting)) return resting === 'muted' ? 'all muted' : 'all plain';
  const lever = words.lever(resting.lever);
  if (!lever) return 'what stands in';
  const kind = kindOf(lever);
  const source = kind.source?.(lever);
  const type = source && words.field(source.field)?.type;
  const values = kind.values?.(resting.position)?.map((value) => keyText(value, type, source?.grain));
  return `as with ${values?.length ? listed(values, 3) : kind.summary(lever, resting.position, undefined)}`;
}

/** That figures which cannot be added up are asked for anew with each move of the levers that filter. */
function askedNote(chart: Chart, board: Board, words: Vocabulary): string | undefined {
  if (!asksPerMove(cubeRequest(chart, board))) return undefined;
  const names = chart.cues.flatMap(({ effect, off, condition }) =>
    effect === 'filter' && !off
      ? conditionKinds
          .get(condition.kind)
          .levers(condition)
          .map((id) => words.lever(id)?.name ?? id)
      : [],
  );
  if (!names.length) return undefined;
  return `Its figures cannot be added up from parts: each move of ${listed([...new Set(names)])} asks the database.`;
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
          problem: `The slices of a ring are its ${plural(cutText(chart.by, words))}: it is not parted any further.`,
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
              text: chart.against ? measureText(chart.against, words) : 'at their places',
              value: chart.against,
            } as const,
          ]
        : []),
      ' for each ',
      { slot: 'by', text: cutText(chart.by, words), value: chart.by },
      ...(chart.split
        ? [
            `, one for each `,
            { slot: 'split', text: cutText(chart.split, words), value: chart.split } as const,
            ' in ',
            optionWord('Colours', ['split', 'colours'], chart.split.colours, [
              { value: 'own', text: 'its own colour', note: 'while nothing is lit' },
              { value: 'one', text: 'the same colour' },
            ]),
            ...(form.stacks
              ? [
                  ', ',
                  optionWord('Arrangement', ['split', 'arrange'], chart.split.arrange ?? 'beside', [
                    { value: 'beside', text: 'side by side' },
                    { value: 'stacked', text: 'stacked' },
                    { value: 'shares', text: 'as shares of one whole' },
                  ]),
                ]
              : []),
          ]
        : []),
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
function weakColour(colour: Colour | undefined, tone: MutedTone): string | null {
  if (isValueColour(colour)) return weakColour(colour.above, tone) ?? weakColour(colour.below, tone);
  if (!colour || colour === seriesColour || isNamedColour(colour)) return null;
  const [first] = weakSpots(colour, tone);
  if (!first) return null;
  return `${colour} hardly stands off what is muted on ${first.ground} ground, ${first.vision}: ${nearestStrong(colour, tone)} would.`;
}

const weakLook = (looks: readonly Look[], tone: MutedTone): string | null =>
  looks.map(({ colour }) => weakColour(colour, tone)).find((problem) => problem !== null) ?? null;

function cueSentence(cue: Cue, index: number, chart: Chart, board: Board, words: Vocabulary): Sentence {
  const condition = conditionKinds.get(cue.condition.kind);
  const meets = under(['condition'], condition.parts(cue.condition, words));
  const effect = (text: string): Part => ({ slot: 'effect', text, value: cue.effect });
  const needs = condition.needs?.(cue.condition) ?? [];
  const cannot =
    unable(needs, board) ??
    (cue.effect === 'light'
      ? condition.unfit(cue.condition, chart, (id) => leverOf(board, id), words)
      : condition.filters(cue.condition, (id) => leverOf(board, id)) === null
        ? 'This can light marks, not keep rows: it is about readings.'
        : null) ??
    (cue.effect === 'light' ? weakLook([cue.look, ...(cue.looks ?? [])], toneOf(chart, board)) : null);
  const base = {
    id: `cue-${cue.id}`,
    levers: [...condition.levers(cue.condition), ...(cue.when ? [cue.when] : [])],
    part: ['cues', index],
    ...(cannot ? { problem: cannot } : {}),
  };
  const rest = condition.restText;
  const sideLooks = condition.sideLooks?.(cue.condition, words) ?? [];
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
      { slot: 'look', path: ['look'], text: lookText(cue.look, words), value: cue.look },
      ...(condition.variants?.(cue.condition, words) ?? []).flatMap((name, i): Part[] => {
        const own = { ...sideLooks[i], ...cue.looks?.[i] };
        return [
          `; ${name} in `,
          { slot: 'look', path: ['looks', i], text: lookText(own, words, 'the same'), value: own },
        ];
      }),
      ...(rest
        ? [
            `; while ${rest}, `,
            { slot: 'resting', text: restingText(cue.resting, words), value: cue.resting } as const,
          ]
        : []),
      '.',
    ],
  };
}

const labelTexts: Record<LabelRule, string> = {
  always: 'every mark that has room',
  lit: 'lit marks only',
  never: 'no mark',
};

/** Whether each bar has a colour of its own, and why it cannot. */
function colourSentence(chart: Chart, words: Vocabulary): Sentence {
  const { markNoun, noun } = formKinds.get(chart.form);
  const count = chart.by.grain ? 0 : (words.field(chart.by.field)?.profile?.distinct ?? 0);
  const problem = !eachItsOwn({ ...chart, colours: 'each' })
    ? `Only ${noun} of one measure, without series and not compared, have colours of their own.`
    : count > mostOwnColours
      ? `There are ${count.toLocaleString('en')} ${noun}, and ${mostOwnColours} colours that can be told apart.`
      : undefined;
  return {
    id: 'colours',
    levers: [],
    part: ['colours'],
    ...(problem && chart.colours === 'each' ? { problem } : {}),
    parts: [
      `While nothing is lit, gives each ${markNoun} `,
      optionWord('Colours', [], chart.colours, [
        { value: 'each', text: 'a colour of its own' },
        { value: 'one', text: 'the same colour' },
      ]),
      '.',
    ],
  };
}

/** What is not lit, and what carries its figure. */
function restSentences(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
  const lights = chart.cues.some((cue) => cue.effect === 'light');
  const otherwise = chart.otherwise ?? { marks: 'muted' };
  const tone = toneOf(chart, board);
  return [
    ...(lights
      ? [
          {
            id: 'otherwise',
            levers: [],
            parts: [
              'Otherwise ',
              {
                slot: 'otherwise',
                text: otherwise.marks === 'gone' ? 'not drawn' : 'muted',
                value: chart.otherwise,
              },
              ...(otherwise.marks === 'muted'
                ? [
                    ', in the ',
                    {
                      slot: 'tone',
                      text: `${tone} tone${otherwise.tone ? '' : ' of the board'}`,
                      value: otherwise.tone,
                    },
                  ]
                : []),
              '.',
            ],
          },
        ]
      : []),
    ...(chart.colours && formKinds.get(chart.form).fills ? [colourSentence(chart, words)] : []),
    ...(chart.figures && formKinds.get(chart.form).fills
      ? [
          {
            id: 'figures',
            levers: [],
            part: ['figures'],
            parts: [
              'Writes figures ',
              optionWord('Place of figures', [], chart.figures, [
                { value: 'inside', text: `inside the ${formKinds.get(chart.form).noun}, where they fit` },
                { value: 'beyond', text: 'beyond their ends' },
              ]),
              '.',
            ],
          },
        ]
      : []),
    ...(chart.labels
      ? [
          {
            id: 'labels',
            levers: [],
            part: ['labels'],
            parts: [
              'Writes the figure beside ',
              optionWord(
                'Figures',
                [],
                chart.labels,
                labelRules.map((value) => ({ value, text: labelTexts[value] })),
              ),
              '.',
            ],
          },
        ]
      : []),
  ];
}

const wholeTexts: Record<Whole['of'], string> = {
  everything: 'the total of everything',
  filters: 'the total of what is kept',
  largest: 'the largest',
  measure: 'a measure of its own',
  figure: 'a figure',
};

function wholeSentence(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
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

/** ", on the second axis": where a chart has two value axes and a guide stands on one of them. */
function axisParts(chart: Chart, guide: Guide): Part[] {
  const axis = guideKinds.get(guide.kind).axis?.(guide);
  const two = formKinds.get(chart.form).secondAxis && alsoOf(chart).some((also) => also.axis === 'second');
  if (!axis || !two) return [];
  return [
    ', on ',
    optionWord('Axis', ['axis'], axis, [
      { value: 'same', text: 'the first axis' },
      { value: 'second', text: 'the second axis' },
    ]),
  ];
}

/** Why a chart of this form has nothing to draw on. */
const noAxis = (chart: Chart): string | undefined =>
  formKinds.get(chart.form).round ? 'A ring has no axis to draw on.' : undefined;

const gestureTexts: Record<Gesture, (mark: string) => string> = {
  click: (mark) => `a click on a ${mark}`,
  hover: (mark) => `the pointer on a ${mark}`,
  drag: (mark) => `a drag across ${mark}s`,
  legend: () => 'a click on a name in the legend',
};
const clearingGesture: Record<Gesture, string> = {
  click: 'a click on empty ground',
  hover: 'the pointer leaving',
  drag: 'a double click',
  legend: 'a second click on it',
};

/** Why what a gesture gives cannot be put into the lever. */
function touchProblem(chart: Chart, gesture: Gesture, lever: Lever, words: Vocabulary): string | undefined {
  const kind = kindOf(lever);
  const cut = keysText(chart, words);
  if (!canTouch(chart, lever)) {
    const source = kind.source?.(lever);
    if (!kind.touch) return `${lever.name} is not moved by touching marks.`;
    return `${lever.name} holds ${source ? cutText(source, words) : 'something else'}, and a mark here gives its ${cut}.`;
  }
  if (gesture === 'legend' && (!chart.split || cutTaken(lever, chart) !== chart.split))
    return chart.split
      ? `A name in the legend gives its ${cutText(chart.split, words)}, and ${lever.name} does not hold that.`
      : 'There are no names of series here: the chart is not parted into any.';
  if (gesture === 'drag' && kind.interval && !brushLever(chart, [lever]))
    return `To brush a stretch the marks must stand in rising order of ${cut}.`;
  return undefined;
}

function touchSentence(chart: Chart, index: number, board: Board, words: Vocabulary): Sentence {
  const touch = chart.touches[index]!;
  const lever = leverOf(board, touch.lever);
  const mark = formKinds.get(chart.form).markNoun;
  const problem = lever && touchProblem(chart, touch.gesture, lever, words);
  const gives =
    lever && kindOf(lever).touch?.takes === 'figure'
      ? 'figure'
      : cutText(lever ? cutTaken(lever, chart) : chart.by, words);
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
        gestures.map((value) => ({ value, text: gestureTexts[value](mark) })),
      ),
      ` by putting its ${gives} into `,
      { slot: 'lever', path: ['lever'], text: lever?.name ?? touch.lever, value: touch.lever },
      `; ${clearingGesture[touch.gesture]} `,
      { slot: 'clearing', text: clearingText(lever?.clearing ?? 'empty'), value: lever?.clearing },
      '.',
    ],
  };
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
    ...restSentences(chart, board, words),
    ...chart.guides.map((guide, index): Sentence => {
      const kind = guideKinds.get(guide.kind);
      const problem =
        unable(kind.needs(guide), board) ??
        noAxis(chart) ??
        kind.unfit?.({ ...chart, against: againstOf(chart) }, words) ??
        figuresProblem(guide, (id) => leverOf(board, id), words);
      const parts = kind.parts(guide, words);
      return {
        id: `guide-${guide.id}`,
        levers: [...kind.levers(guide), ...(guide.when ? [guide.when] : [])],
        part: ['guides', index],
        ...(problem ? { problem } : {}),
        parts: [...parts.slice(0, -1), ...axisParts(chart, guide), ...whenParts(guide.when, words), '.'],
      };
    }),
    ...chart.touches.map((_, i) => touchSentence(chart, i, board, words)),
  ];
}
