import { type Board, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type LabelRule, labelRules } from '../board/otherwise';
import { formKinds } from '../forms/registry';
import { eachItsOwn } from '../pipeline/chart-rules';
import { mostOwnColours } from '../pipeline/series-looks';
import { optionWord, type Sentence } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

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
export function restSentences(chart: Chart, board: Board, words: Vocabulary): Sentence[] {
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
