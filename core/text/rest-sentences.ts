import { type Board, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { labelRules, type MutedTone } from '../board/otherwise';
import { formKinds } from '../forms/registry';
import { tell } from '../messages/desk';
import { eachItsOwn } from '../pipeline/chart-rules';
import { optionWord, type Sentence, sentenceParts } from '../words/sentence';

/** The tones of what is muted, in plain words. */
export const toneText = (tone: MutedTone): string => tell('tone', { tone });

/** Whether each bar has a colour of its own, and why it cannot. */
function colourSentence(chart: Chart): Sentence {
  const { markNoun, noun } = formKinds.get(chart.form);
  const problem = !eachItsOwn({ ...chart, colours: 'each' })
    ? tell('colours.unfit', { marks: noun })
    : undefined;
  return {
    id: 'colours',
    levers: [],
    part: ['colours'],
    ...(problem && chart.colours === 'each' ? { problem } : {}),
    parts: sentenceParts('colours', {
      mark: markNoun,
      colours: optionWord(tell('colours.label'), [], chart.colours, [
        { value: 'each', text: tell('colours.each') },
        { value: 'one', text: tell('colours.one') },
      ]),
    }),
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
            parts: sentenceParts('rest', {
              marks: {
                slot: 'otherwise',
                text: otherwise.marks === 'gone' ? tell('rest.gone') : tell('rest.muted'),
                value: chart.otherwise,
              },
              muted: otherwise.marks === 'muted' ? 'yes' : 'no',
              tone: {
                slot: 'tone',
                text: tell('rest.tone', { tone: toneText(tone), own: otherwise.tone ? 'yes' : 'no' }),
                value: otherwise.tone,
              },
            }),
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
            parts: sentenceParts('figures', {
              place: optionWord(tell('figures.label'), [], chart.figures, [
                { value: 'inside', text: tell('figures.inside', { marks: formKinds.get(chart.form).noun }) },
                { value: 'beyond', text: tell('figures.beyond', { marks: formKinds.get(chart.form).noun }) },
              ]),
            }),
          },
        ]
      : []),
    ...(chart.labels
      ? [
          {
            id: 'labels',
            levers: [],
            part: ['labels'],
            parts: sentenceParts('labels', {
              marks: optionWord(
                tell('labels.label'),
                [],
                chart.labels,
                labelRules.map((value) => ({ value, text: tell('labels.marks', { rule: value }) })),
              ),
            }),
          },
        ]
      : []),
  ];
}
