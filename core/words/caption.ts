import type { Chart } from '../board/chart';
import { conditionKinds } from '../conditions/registry';
import type { Readings } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import type { Emphasis } from '../emphasis/emphasise';
import { cutNoun } from './cut-text';
import { keyText } from './key-text';
import { atStart } from './letter-case';
import { numberText } from './number-text';
import { counted, listed, plural } from './plural';
import type { Vocabulary } from './vocabulary';

const lit = 2;
const muted = 1;
/** Marks named one by one; the others are only counted. */
const namedAtMost = 4;

/** "Only rows of 2023 and 2024." for the filters that hold something. */
function filterText(filters: readonly RowFilter[], words: Vocabulary): string {
  const texts = filters.map((filter) => {
    const type = words.field(filter.field)?.type;
    return filter.text((value) => keyText(value, type, filter.grain));
  });
  return texts.length ? `Only rows of ${listed(texts)}. ` : '';
}

/** Why nothing is lit while all cues rest. */
function restText({ evaluations }: Emphasis): string {
  const texts = evaluations.map(({ cue }) => conditionKinds.get(cue.condition.kind).restText);
  return [...new Set(texts.filter((text) => text !== undefined))].join(', ') || 'there is nothing to go by';
}

/** What is lit, in one or two sentences with figures: shown under the chart and heard by a screen reader. */
export function captionText(
  chart: Chart,
  filters: readonly RowFilter[],
  readings: Readings,
  emphasis: Emphasis,
  words: Vocabulary,
): string {
  const noun = cutNoun(chart.by, words);
  const kept = filterText(filters, words);
  const total = readings.length;
  if (total === 0) return `${kept}No ${plural(noun)} to show.`;
  if (!emphasis.active) {
    const all = `${kept}${atStart(counted(total, noun))}`;
    if (emphasis.state[0] === muted) return `${all}, all muted: ${restText(emphasis)}.`;
    return emphasis.evaluations.length ? `${all}, none lit: ${restText(emphasis)}.` : `${all}.`;
  }
  const notes = [...new Set(emphasis.evaluations.flatMap(({ evaluation }) => evaluation.note ?? []))];
  const noted = notes.length ? ` (${listed(notes)})` : '';
  const type = words.field(chart.by.field)?.type;
  const named: string[] = [];
  for (let i = 0; i < total && named.length < namedAtMost; i++) {
    if (emphasis.state[i] !== lit) continue;
    named.push(`${keyText(readings.category[i]!, type, chart.by.grain)} (${numberText(readings.value[i]!)})`);
  }
  const head = `${kept}${emphasis.litCount.toLocaleString('en')} of ${counted(total, noun)} lit${noted}`;
  if (named.length) return `${head}: ${listed(named, namedAtMost, emphasis.litCount)}.`;
  const { cue } = emphasis.evaluations.find(({ evaluation }) => evaluation.active)!;
  if (noted || conditionKinds.get(cue.condition.kind).restText === undefined) return `${head}.`;
  return `${head}: ${kept ? `none of them is in view` : 'what is set has no rows here'}.`;
}
