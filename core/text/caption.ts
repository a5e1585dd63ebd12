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
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { furtherMeasures } from '../pipeline/chart-rules';
import type { Emphasis } from '../pipeline/emphasise';
import { dimensionNoun } from '../words/dimension-text';
import { figureWriter } from '../words/figure-writer';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import type { Vocabulary } from '../words/vocabulary';
import { lookText } from './look-text';

const lit = 2;
const muted = 1;
/** Marks named one by one; the others are only counted. */
const namedAtMost = 4;

/** "Only rows of 2023 and 2024." for the filters that hold something. */
function filterText(filters: readonly RowFilter[], words: Vocabulary): string {
  const { locale } = words;
  const texts = filters.map((filter) => {
    const type = words.field(filter.field)?.type;
    return filter.text({
      value: (value) => keyText(value, locale, type, filter.grain),
      list: (items, limit, total) => listed(items, locale, limit, total),
      allBut: (text) => say(locale, 'filter.allBut', { text }),
    });
  });
  return texts.length ? say(locale, 'caption.filter', { rows: listed(texts, locale) }) : '';
}

/** Why nothing is lit while all cues rest. */
function restText({ evaluations }: Emphasis, locale: Locale): string {
  const rests = evaluations.map(({ cue }) => conditionKinds.get(cue.condition.kind).restText);
  const texts = rests.flatMap((rest) => rest?.(locale) ?? []);
  return [...new Set(texts)].join(', ') || say(locale, 'rest.none');
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
  const { locale } = words;
  const place = (i: number) => keyText(readings.category[i]!, locale, words.field(by.field)?.type, by.grain);
  const series = (i: number) =>
    split
      ? `${keyText(readings.series[readings.seriesOf[i]!]!, locale, words.field(split.field)?.type, split.grain)}, `
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
      if (texts.length <= namedAtMost) return listed(texts, locale);
    }
    if (list.length <= namedAtMost) return listed(list.map(named), locale);
    const known = list.filter((i) => !Number.isNaN(value(i)));
    const highest = maxIndex(known, value);
    const lowest = minIndex(known, value);
    // Where all are alike, or none has a value, there are no extremes to tell.
    if (!known.length || value(known[highest]!) === value(known[lowest]!))
      return listed(list.slice(0, namedAtMost).map(named), locale, namedAtMost, list.length);
    return say(locale, 'caption.extremes', {
      highest: named(known[highest]!),
      lowest: named(known[lowest]!),
    });
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
  const { locale } = words;
  const figure = (mark: number) =>
    valueText?.(mark) ??
    figureWriter(formats[marks.judged ? marks.seriesOf[mark]! : 0], locale).full(marks.value[mark]!);
  const whole = split && wholeSeriesLit(readings, emphasis);
  if (split && whole?.length) {
    const seriesName = (s: number) =>
      keyText(readings.series[s]!, locale, words.field(split.field)?.type, split.grain);
    const named = whole.slice(0, namedAtMost).map((s) => {
      const last = readings.starts[s + 1]! - 1;
      const place = keyText(readings.category[last]!, locale, words.field(by.field)?.type, by.grain);
      return say(locale, 'caption.series', { series: seriesName(s), figure: figure(last), place });
    });
    const told = listed(named, locale, namedAtMost, whole.length);
    return {
      told,
      count: whole.length,
      all: readings.series.length,
      of: dimensionNoun(split, readings.series.length, words),
    };
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
          .map(([look, list]) =>
            say(locale, 'caption.look', {
              marks: tell(list),
              look: lookText(emphasis.looks[look]!, words),
            }),
          )
          .join('; ')
      : tell(marksLit);
  const all = readings.length - restReadings(readings);
  const of = split
    ? say(locale, 'mark', { n: all, mark: formKinds.get(chart.form).mark })
    : dimensionNoun(by, all, words);
  return { told, count: emphasis.litReadings, all, of };
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
  const names = partly.map((place) => keyText(place, words.locale, words.field(field)?.type, grain));
  const periods = listed(names, words.locale, namedAtMost, names.length);
  return say(words.locale, 'caption.partly', { periods });
}

/** "20 of 221 countries kept, the others together." */
function keptText({ kept }: Readings, by: Chart['by'], words: Vocabulary): string {
  if (!kept) return '';
  const { of, rest, together } = kept;
  return say(words.locale, 'caption.kept', {
    n: of - rest,
    all: of,
    noun: dimensionNoun(by, of, words),
    together: together ? 'yes' : 'no',
  });
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
  const { locale } = words;
  const { by, split } = chart;
  const kept = [
    filterText(filters, words),
    keptText(readings, by, words),
    partlyKept(chart, filters, readings, words),
  ].filter(Boolean);
  const told = (...more: string[]) => [...kept, ...more].join(' ');
  const total = readings.length - restReadings(readings);
  if (total === 0) return told(say(locale, 'caption.empty', { nouns: dimensionNoun(by, 2, words) }));
  if (!emphasis.active) {
    const places = split ? readings.places.length - (readings.kept?.together ? 1 : 0) : total;
    if (readings.kept && !split && !emphasis.evaluations.length) return told();
    const rests = emphasis.rest === muted ? 'muted' : emphasis.evaluations.length ? 'unlit' : 'plain';
    return told(
      say(locale, 'caption.rest', {
        split: split ? 'yes' : 'no',
        series: readings.series.length,
        seriesNoun: split ? dimensionNoun(split, readings.series.length, words) : '',
        n: places,
        noun: dimensionNoun(by, places, words),
        state: rests,
        why: rests === 'plain' ? '' : restText(emphasis, locale),
      }),
    );
  }
  const notes = new Set(
    emphasis.evaluations.flatMap(({ evaluation: { note } }) => (note ? note(locale) : [])),
  );
  const parts = litParts(chart, marks, emphasis, words, valueText);
  const { cue } = emphasis.evaluations.find(({ evaluation }) => evaluation.active)!;
  const clear = notes.size > 0 || conditionKinds.get(cue.condition.kind).restText === undefined;
  return told(
    say(locale, 'caption.lit', {
      n: parts.count,
      all: parts.all,
      noun: parts.of,
      noted: notes.size ? 'yes' : 'no',
      notes: listed([...notes], locale),
      tells: parts.told ? 'marks' : clear ? 'nothing' : kept.length ? 'notInView' : 'noData',
      marks: parts.told,
    }),
  );
}
