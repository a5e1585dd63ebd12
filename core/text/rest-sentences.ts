import { type Board, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type LabelRule, labelRules, type MutedTone } from '../board/otherwise';
import { formKinds } from '../forms/registry';
import { eachItsOwn } from '../pipeline/chart-rules';
import { optionWord, type Sentence } from '../words/sentence';

const labelTexts: Record<LabelRule, string> = {
  always: 'every mark that has room',
  lit: 'lit marks only',
  never: 'no mark',
};

/** The tones of what is muted, in plain words. */
export const toneTexts: Record<MutedTone, string> = { faint: 'light', quiet: 'normal', firm: 'strong' };

/** Whether each bar has a colour of its own, and why it cannot. */
function colourSentence(chart: Chart): Sentence {
  const { markNoun, noun } = formKinds.get(chart.form);
  const problem = !eachItsOwn({ ...chart, colours: 'each' })
    ? `Only ${noun} of one measure, without series and not compared, have colours of their own.`
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
export function restSentences(chart: Chart, board: Board): Sentence[] {
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
              'All other marks are ',
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
                      text: `${toneTexts[tone]} tone${otherwise.tone ? '' : ' of the board'}`,
                      value: otherwise.tone,
                    },
                  ]
                : []),
              '.',
            ],
          },
        ]
      : []),
    ...(chart.colours && formKinds.get(chart.form).fills ? [colourSentence(chart)] : []),
    ...(chart.figures && formKinds.get(chart.form).fills
      ? [
          {
            id: 'figures',
            levers: [],
            part: ['figures'],
            parts: [
              'Places value labels ',
              optionWord('Place of value labels', [], chart.figures, [
                { value: 'inside', text: `inside the ${formKinds.get(chart.form).noun} if they fit` },
                { value: 'beyond', text: `outside the ${formKinds.get(chart.form).noun}` },
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
              'Labels ',
              optionWord(
                'Labelled marks',
                [],
                chart.labels,
                labelRules.map((value) => ({ value, text: labelTexts[value] })),
              ),
              ' with their value.',
            ],
          },
        ]
      : []),
  ];
}
