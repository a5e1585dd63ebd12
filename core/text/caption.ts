import { group, maxIndex, minIndex, sort } from 'd3-array';
import type { Chart } from '../board/chart';
import { isValueColour, seriesColour } from '../board/look';
import { formatOf } from '../board/measure';
import { conditionKinds } from '../conditions/registry';
import { restCategory } from '../data/kept-categories';
import { periodEnd } from '../data/periods';
import type { Readings } from '../data/readings';
import type { RowFilter } from '../data/row-filter';
import { isTemporal } from '../data/values';
import { formKinds } from '../forms/registry';
import { furtherMeasures } from '../pipeline/chart-rules';
import type { Emphasis } from '../pipeline/emphasise';
import { dimensionNoun } from '../words/dimension-text';
import { figureWriter } from '../words/figure-writer';
import { keyText } from '../words/key-text';
import { atStart } from '../words/letter-case';
import { counted, listed, plural } from '../words/plural';
import type { Vocabulary } from '../words/vocabulary';
import { lookText } from './look-text';

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
  return [...new Set(texts.filter((text) => text !== undefined))].join(', ') || 'no position is set';
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

/** A stretch of this many neighbouring periods or more is told by its ends. */
const leastStretch = 3;
/** More looks than this are not told one by one. */
const mostLooks = 4;

/** Runs of readings at neighbouring places, each by its first and last reading. */
function runsOf({ place }: Readings, list: readonly number[]): [number, number][] {
  const runs: [number, number][] = [];
  for (const i of list) {
    const run = runs.at(-1);
    if (run && place[i] === place[run[1]]! + 1) run[1] = i;
    else runs.push([i, i]);
  }
  return runs;
}

/** How lit readings are told: stretches by their ends, a few by name, of many the highest and the lowest. */
function tellerOf(
  chart: Chart,
  readings: Readings,
  words: Vocabulary,
  figure: (reading: number) => string,
  value: (reading: number) => number,
) {
  const { by, split, order } = chart;
  const place = (i: number) => keyText(readings.category[i]!, words.field(by.field)?.type, by.grain);
  const series = (i: number) =>
    split
      ? `${keyText(readings.series[readings.seriesOf[i]!]!, words.field(split.field)?.type, split.grain)}, `
      : '';
  const named = (i: number) => `${series(i)}${place(i)} (${figure(i)})`;
  const dated = order.by === 'key' && !split && isTemporal(words.field(by.field)?.type ?? 'text');
  const stretch = ([a, b]: [number, number]) => {
    if (b - a + 1 < leastStretch) return range(a, b).map(named);
    const [first, last] = order.direction === 'descending' ? [b, a] : [a, b];
    return [`${place(first)} – ${place(last)}`];
  };
  return (list: readonly number[]): string => {
    if (dated && list.length >= leastStretch) {
      const runs = runsOf(readings, list);
      const texts = runs.flatMap(stretch);
      if (texts.length <= namedAtMost) return listed(texts);
    }
    if (list.length <= namedAtMost) return listed(list.map(named));
    const known = list.filter((i) => !Number.isNaN(value(i)));
    const highest = maxIndex(known, value);
    const lowest = minIndex(known, value);
    // Where all are alike, or none has a value, there are no extremes to tell.
    if (!known.length || value(known[highest]!) === value(known[lowest]!))
      return listed(list.slice(0, namedAtMost).map(named), namedAtMost, list.length);
    return `highest ${named(known[highest]!)}, lowest ${named(known[lowest]!)}`;
  };
}

const range = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);

/** The first cue that lights a mark: what the author put first is told first. */
const firstCue = ({ evaluations }: Emphasis, mark: number) =>
  evaluations.findIndex(({ evaluation }) => evaluation.active && evaluation.verdict[mark] === lit);

/** The lit parts of a chart as they are counted and told: its categories, its whole series, or single marks. */
function litParts(
  chart: Chart,
  marks: Readings,
  emphasis: Emphasis,
  words: Vocabulary,
  valueText?: (mark: number) => string,
) {
  // Of several measures, what holds for a reading holds for all of its marks but a base that stands muted.
  const readings = marks.judged ?? marks;
  const formats = [chart.measure, ...furtherMeasures(chart).map((also) => also.measure)].map(formatOf);
  const runs = marks.length / readings.length;
  const litMark = (reading: number) => {
    for (let run = 0; run < runs; run++) {
      const mark = reading + run * readings.length;
      if (emphasis.state[mark] === lit) return mark;
    }
    return -1;
  };
  const { by, split } = chart;
  const figure = (mark: number) =>
    valueText?.(mark) ??
    figureWriter(formats[marks.judged ? marks.seriesOf[mark]! : 0]).full(marks.value[mark]!);
  const whole = split && wholeSeriesLit(readings, emphasis);
  if (split && whole?.length) {
    const seriesName = (s: number) =>
      keyText(readings.series[s]!, words.field(split.field)?.type, split.grain);
    const named = whole.slice(0, namedAtMost).map((s) => {
      const last = readings.starts[s + 1]! - 1;
      const place = keyText(readings.category[last]!, words.field(by.field)?.type, by.grain);
      return `${seriesName(s)} (${figure(last)} at ${place})`;
    });
    const told = listed(named, namedAtMost, whole.length);
    return { told, count: whole.length, all: readings.series.length, of: dimensionNoun(split, words) };
  }
  const marksLit: number[] = [];
  for (let i = 0; i < readings.length; i++) if (litMark(i) >= 0) marksLit.push(i);
  const tell = tellerOf(
    chart,
    readings,
    words,
    (i) => figure(litMark(i)),
    (i) => marks.value[litMark(i)]!,
  );
  const byLook = group(marksLit, (i) => emphasis.look[litMark(i)]!);
  const following = emphasis.evaluations.some(({ cue }) =>
    [cue.look, ...(cue.looks ?? [])].some(({ colour }) => colour === seriesColour || isValueColour(colour)),
  );
  const told =
    byLook.size > 1 && byLook.size <= mostLooks && !following
      ? sort(byLook, ([, [first]]) => firstCue(emphasis, litMark(first!)))
          .map(([look, list]) => `${tell(list)} in ${lookText(emphasis.looks[look]!, words)}`)
          .join('; ')
      : tell(marksLit);
  const of = split ? formKinds.get(chart.form).markNoun : dimensionNoun(by, words);
  return { told, count: emphasis.litReadings, all: readings.length - restReadings(readings), of };
}

/** The periods of a chart of which a filter on days keeps only a part: their figures are not those of whole periods. */
function partlyKept(
  chart: Chart,
  filters: readonly RowFilter[],
  { places }: Readings,
  words: Vocabulary,
): string {
  const { field, grain } = chart.by;
  if (!grain) return '';
  const partly = places.filter(
    (place) =>
      typeof place === 'string' &&
      filters.some(
        (filter) => filter.field === field && filter.covers?.(place, periodEnd(place, grain)) === 'part',
      ),
  );
  if (!partly.length) return '';
  const names = partly.map((place) => keyText(place, words.field(field)?.type, grain));
  return `${listed(names, namedAtMost, names.length)} only in part. `;
}

/** "20 of 221 countries kept, the others together." */
function keptText({ kept }: Readings, noun: string): string {
  if (!kept) return '';
  const { of, rest, together } = kept;
  return `${(of - rest).toLocaleString('en')} of ${counted(of, noun)} kept${together ? ', the others together' : ''}. `;
}

/** How many readings are of all others together: they are counted with none. */
const restReadings = ({ kept, category }: Readings): number =>
  kept?.together ? category.reduce((count: number, value) => count + Number(value === restCategory), 0) : 0;

/** What is lit, in one or two sentences with figures: shown under the chart and heard by a screen reader. */
export function captionText(
  given: Chart,
  filters: readonly RowFilter[],
  marks: Readings,
  emphasis: Emphasis,
  words: Vocabulary,
  valueText?: (mark: number) => string,
): string {
  // A round form has its categories for series: what else it is split by is not shown.
  const { split: _hidden, ...unsplit } = given;
  const chart: Chart = formKinds.get(given.form).round ? unsplit : given;
  const readings = marks.judged ?? marks;
  const noun = dimensionNoun(chart.by, words);
  const kept = `${filterText(filters, words)}${keptText(readings, noun)}${partlyKept(chart, filters, readings, words)}`;
  const total = readings.length - restReadings(readings);
  if (total === 0) return `${kept}No ${plural(noun)} to show.`;
  if (!emphasis.active) {
    const { split } = chart;
    const series = split ? `${counted(readings.series.length, dimensionNoun(split, words))} at ` : '';
    const places = split ? readings.places.length - (readings.kept?.together ? 1 : 0) : total;
    if (readings.kept && !split && !emphasis.evaluations.length) return kept.trimEnd();
    const all = `${kept}${atStart(`${series}${counted(places, noun)}`)}`;
    if (emphasis.rest === muted) return `${all}, all muted: ${restText(emphasis)}.`;
    return emphasis.evaluations.length ? `${all}, none lit: ${restText(emphasis)}.` : `${all}.`;
  }
  const notes = [...new Set(emphasis.evaluations.flatMap(({ evaluation }) => evaluation.note ?? []))];
  const noted = notes.length ? ` (${listed(notes)})` : '';
  const { told, count, all, of } = litParts(chart, marks, emphasis, words, valueText);
  const head = `${kept}${count.toLocaleString('en')} of ${counted(all, of)} lit${noted}`;
  if (told) return `${head}: ${told}.`;
  const { cue } = emphasis.evaluations.find(({ evaluation }) => evaluation.active)!;
  if (noted || conditionKinds.get(cue.condition.kind).restText === undefined) return `${head}.`;
  return `${head}: ${kept ? `none of them is in view` : 'no data for the current position'}.`;
}
