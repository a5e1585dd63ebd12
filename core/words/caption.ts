import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { conditionKinds } from '../conditions/registry';
import type { Readings } from '../cube/readings';
import type { Emphasis } from '../emphasis/emphasise';
import type { Positions } from '../levers/lever-kind';
import { cutNoun } from './cut-text';
import { keyText } from './key-text';
import { numberText } from './number-text';
import { counted, listed, plural } from './plural';
import { atStart, type Vocabulary } from './vocabulary';

const lit = 2;
/** Marks named one by one; the others are only counted. */
const namedAtMost = 4;

/** "kept: 2 picked in Years" for each filtering cue that holds something. */
function filterText(chart: Chart, board: Board, positions: Positions, words: Vocabulary): string {
  const texts = chart.cues
    .filter((cue) => cue.effect === 'filter' && !cue.off)
    .flatMap((cue) => {
      const lever = (id: string) => leverOf(board, id);
      const filter = conditionKinds.get(cue.condition.kind).rowFilter(cue.condition, { lever, positions });
      if (!filter) return [];
      const type = words.field(filter.field)?.type;
      return [
        listed(
          filter.values.map((value) => keyText(value, type, filter.grain)),
          3,
        ),
      ];
    });
  return texts.length ? `Only rows of ${listed(texts)}. ` : '';
}

/** What is lit, in one or two sentences with figures: shown under the chart and heard by a screen reader. */
export function captionText(
  chart: Chart,
  board: Board,
  positions: Positions,
  readings: Readings,
  emphasis: Emphasis,
  words: Vocabulary,
): string {
  const noun = cutNoun(chart.by, words);
  const kept = filterText(chart, board, positions, words);
  const total = readings.length;
  if (total === 0) return `${kept}No ${plural(noun)} to show.`;
  if (!emphasis.active)
    return `${kept}${atStart(counted(total, noun))}${
      emphasis.state[0] === 1
        ? ', all muted: nothing is picked.'
        : emphasis.evaluations.length
          ? ', none lit: nothing is picked.'
          : '.'
    }`;
  const type = words.field(chart.by.field)?.type;
  const named: string[] = [];
  for (let i = 0; i < total && named.length < namedAtMost; i++) {
    if (emphasis.state[i] !== lit) continue;
    named.push(`${keyText(readings.category[i]!, type, chart.by.grain)} (${numberText(readings.value[i]!)})`);
  }
  const head = `${emphasis.litCount.toLocaleString('en')} of ${counted(total, noun)} lit`;
  if (!named.length)
    return `${kept}${head}: ${kept ? `none of the ${plural(noun)} picked is in view` : 'what is picked has no rows here'}.`;
  return `${kept}${head}: ${listed(named, namedAtMost, emphasis.litCount)}.`;
}
