import { type Board, leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { figuresProblem } from '../conditions/figures-problem';
import { formKinds } from '../forms/registry';
import { type Guide, guideKinds } from '../guides/registry';
import { tell } from '../messages/desk';
import { againstOf, furtherMeasures } from '../pipeline/chart-rules';
import { optionWord, type Part, type Sentence, sentenceParts } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { unable, whenParts } from './sentence-needs';

/** ", on the second axis": where a chart has two value axes and a guide stands on one of them. */
function axisParts(chart: Chart, guide: Guide): Part[] {
  const axis = guideKinds.get(guide.kind).axis?.(guide);
  const two =
    formKinds.get(chart.form).secondAxis && furtherMeasures(chart).some((also) => also.axis === 'second');
  if (!axis || !two) return [];
  return sentenceParts('guide.axis', {
    axis: optionWord(tell('guide.axisLabel'), ['axis'], axis, [
      { value: 'same', text: tell('guide.first') },
      { value: 'second', text: tell('guide.second') },
    ]),
  });
}

/** Why a chart of this form has nothing to draw on. */
const noAxis = (chart: Chart): string | undefined =>
  formKinds.get(chart.form).round ? tell('guide.noAxis') : undefined;

/** What a guide draws, and where it cannot. */
export function guideSentence(
  guide: Guide,
  index: number,
  chart: Chart,
  board: Board,
  words: Vocabulary,
): Sentence {
  const kind = guideKinds.get(guide.kind);
  const problem =
    unable(kind.needs(guide), board) ??
    noAxis(chart) ??
    kind.unfit?.({ ...chart, against: againstOf(chart) }, words) ??
    figuresProblem(guide, (id) => leverOf(board, id), words);
  return {
    id: `guide-${guide.id}`,
    levers: [...kind.levers(guide), ...(guide.when ? [guide.when] : [])],
    part: ['guides', index],
    ...(problem ? { problem } : {}),
    parts: sentenceParts('guide', {
      draws: kind.parts(guide, words),
      axis: axisParts(chart, guide),
      when: whenParts(guide.when, words),
    }),
  };
}
