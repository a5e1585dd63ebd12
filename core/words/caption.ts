import { alsoOf, type Chart } from '../board/chart';
import { formatOf } from '../board/measure';
import { conditionKinds } from '../conditions/registry';
import type { Readings } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import type { Emphasis } from '../emphasis/emphasise';
import { formKinds } from '../forms/registry';
import { cutNoun } from './cut-text';
import { figureWriter } from './figure-writer';
import { keyText } from './key-text';
import { atStart } from './letter-case';
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

/** The series of which every reading is lit; null when some reading is lit alone. */
function wholeSeriesLit({ starts }: Readings, { look }: Emphasis): number[] | null {
  const whole: number[] = [];
  for (let s = 0; s + 1 < starts.length; s++) {
    let count = 0;
    for (let i = starts[s]!; i < starts[s + 1]!; i++) if (look[i]! >= 0) count++;
    if (count === 0) continue;
    if (count < starts[s + 1]! - starts[s]!) return null;
    whole.push(s);
  }
  return whole;
}

/** The lit parts of a chart as they are counted and named: its categories, its whole series, or single marks. */
function litParts(
  chart: Chart,
  marks: Readings,
  emphasis: Emphasis,
  words: Vocabulary,
  valueText?: (mark: number) => string,
) {
  // Of several measures, what holds for a reading holds for all of its marks but a base that stands muted.
  const readings = marks.judged ?? marks;
  const formats = [chart.measure, ...alsoOf(chart).map((also) => also.measure)].map(formatOf);
  const runs = marks.length / readings.length;
  const litMark = (reading: number) => {
    for (let run = 0; run < runs; run++) {
      const mark = reading + run * readings.length;
      if (emphasis.state[mark] === lit) return mark;
    }
    return -1;
  };
  const { by, split } = chart;
  const place = (i: number) => keyText(readings.category[i]!, words.field(by.field)?.type, by.grain);
  const seriesName = (s: number) =>
    keyText(readings.series[s]!, split && words.field(split.field)?.type, split?.grain);
  const figure = (mark: number) =>
    valueText?.(mark) ??
    figureWriter(formats[marks.judged ? marks.seriesOf[mark]! : 0]).full(marks.value[mark]!);
  const whole = split && wholeSeriesLit(readings, emphasis);
  if (split && whole?.length) {
    const named = whole.slice(0, namedAtMost).map((s) => {
      const last = readings.starts[s + 1]! - 1;
      return `${seriesName(s)} (${figure(last)} at ${place(last)})`;
    });
    return { named, count: whole.length, all: readings.series.length, of: cutNoun(split, words) };
  }
  const named: string[] = [];
  for (let i = 0; i < readings.length && named.length < namedAtMost; i++) {
    const mark = litMark(i);
    if (mark < 0) continue;
    const series = split ? `${seriesName(readings.seriesOf[i]!)}, ` : '';
    named.push(`${series}${place(i)} (${figure(mark)})`);
  }
  const of = split ? formKinds.get(chart.form).markNoun : cutNoun(by, words);
  return { named, count: emphasis.litReadings, all: readings.length, of };
}

/** What is lit, in one or two sentences with figures: shown under the chart and heard by a screen reader. */
export function captionText(
  chart: Chart,
  filters: readonly RowFilter[],
  marks: Readings,
  emphasis: Emphasis,
  words: Vocabulary,
  valueText?: (mark: number) => string,
): string {
  const readings = marks.judged ?? marks;
  const noun = cutNoun(chart.by, words);
  const kept = filterText(filters, words);
  const total = readings.length;
  if (total === 0) return `${kept}No ${plural(noun)} to show.`;
  if (!emphasis.active) {
    const series = chart.split ? `${counted(readings.series.length, cutNoun(chart.split, words))} at ` : '';
    const places = chart.split ? readings.places.length : total;
    const all = `${kept}${atStart(`${series}${counted(places, noun)}`)}`;
    if (emphasis.rest === muted) return `${all}, all muted: ${restText(emphasis)}.`;
    return emphasis.evaluations.length ? `${all}, none lit: ${restText(emphasis)}.` : `${all}.`;
  }
  const notes = [...new Set(emphasis.evaluations.flatMap(({ evaluation }) => evaluation.note ?? []))];
  const noted = notes.length ? ` (${listed(notes)})` : '';
  const { named, count, all, of } = litParts(chart, marks, emphasis, words, valueText);
  const head = `${kept}${count.toLocaleString('en')} of ${counted(all, of)} lit${noted}`;
  if (named.length) return `${head}: ${listed(named, namedAtMost, count)}.`;
  const { cue } = emphasis.evaluations.find(({ evaluation }) => evaluation.active)!;
  if (noted || conditionKinds.get(cue.condition.kind).restText === undefined) return `${head}.`;
  return `${head}: ${kept ? `none of them is in view` : 'what is set has no rows here'}.`;
}
