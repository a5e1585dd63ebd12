import { type Board, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type LabelRule, labelRules } from '../board/otherwise';
import { formKinds } from '../forms/registry';
import { eachItsOwn } from '../pipeline/chart-rules';
import { optionWord, type Sentence } from '../words/sentence';

const labelTexts: Record<LabelRule, string> = {
  always: 'every mark that has room',
  lit: 'lit marks only',
  never: 'no mark',
};

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
    ...(chart.colours && formKinds.get(chart.form).fills ? [colourSentence(chart)] : []),
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
