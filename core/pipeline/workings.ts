import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Chart } from '../board/chart';
import { formatOf, type Measure, measureKey, plainMeasure } from '../board/measure';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import { allSteps } from '../data/all-steps';
import type { PartialAggregate } from '../data/cube';
import { sameDimension } from '../data/dimension';
import type { Readings } from '../data/readings';
import type { RowFilter } from '../data/row-filter';
import { tell } from '../messages/desk';
import { english } from '../messages/locale';
import { dimensionNoun, dimensionText } from '../words/dimension-text';
import { figureWriter } from '../words/figure-writer';
import { atStart } from '../words/letter-case';
import { measureText } from '../words/measure-text';
import { exactNumberText } from '../words/number-text';
import { listed } from '../words/plural';
import { sentenceText } from '../words/sentence';
import { type Vocabulary, vocabularyOf } from '../words/vocabulary';
import { furtherMeasures, splitOf } from './chart-rules';
import { measuresOf } from './cube-request';
import { type MarkState, markStates } from './emphasise';
import { measurePartials } from './measure-partials';
import { readingsOf } from './readings-of';
import { wholeOfShare } from './shares';
import type { ChartResult } from './stage';

/** One step of the way from readings to lit marks: a value per reading. */
export interface WorkingsStep {
  id: string;
  heading: string;
  /** Over which rows it was computed, or what it is. */
  note: string;
  /** Figures stand at the right, and are sorted as such. */
  numeric: boolean;
  /** What it is sorted by; null is last. */
  value(reading: number): number | string | null;
  text(reading: number): string;
}

/** Every step from the readings of a chart to its lit marks, in the order of its sentences. */
export interface Workings {
  length: number;
  steps: WorkingsStep[];
  state(reading: number): MarkState;
}

const verdictText = (verdict: number): string =>
  tell('workings.verdict', {
    verdict: verdict === verdicts.yes ? 'yes' : verdict === verdicts.no ? 'no' : 'unknown',
  });

const numberStep = (
  id: string,
  heading: string,
  note: string,
  values: ArrayLike<number>,
  write: (value: number) => string = (value) => exactNumberText(value, english),
): WorkingsStep => ({
  id,
  heading,
  note,
  numeric: true,
  value: (i) => (Number.isNaN(values[i]!) ? null : values[i]!),
  text: (i) => (Number.isNaN(values[i]!) ? 'null' : write(values[i]!)),
});

const textStep = (id: string, heading: string, note: string, text: (i: number) => string): WorkingsStep => ({
  id,
  heading,
  note,
  numeric: false,
  value: text,
  text,
});

/** Figures of another roll-up of the same cube, for each of some readings: found by category and series. */
function matched(readings: Readings, other: Readings, values: Float64Array): Float64Array {
  const runs = Math.max(1, other.series.length);
  const placeOf = new Map(other.places.map((value, place) => [value, place]));
  const seriesOf = new Map(other.series.map((value, series) => [value, series]));
  const at = new Int32Array(other.places.length * runs).fill(-1);
  for (let i = 0; i < other.length; i++) at[other.place[i]! * runs + other.seriesOf[i]!] = i;
  return Float64Array.from(readings.category, (category, i) => {
    const place = placeOf.get(category);
    const series = readings.series.length ? seriesOf.get(readings.series[readings.seriesOf[i]!]!) : 0;
    const found = place === undefined || series === undefined ? -1 : at[place * runs + series]!;
    return found < 0 ? Number.NaN : values[found]!;
  });
}

/** A partial aggregate as a measure of its own. */
function partialMeasure({ aggregate, field, of, where }: PartialAggregate): Measure {
  if (of === undefined && where === undefined) return { aggregate, field } as Measure;
  if (aggregate === 'nonAdditive') return { aggregate: 'formula', text: of! };
  const filter = where === undefined ? '' : ` FILTER (WHERE ${where})`;
  return { aggregate: 'formula', text: `${aggregate.toUpperCase()}(${of ?? field ?? '*'})${filter}` };
}

/** What measures are put together from, each a measure of its own: partial aggregates, and what shares are taken of. */
function partsOf(measures: readonly Measure[], engine: FormulaEngine | null): Measure[] {
  const partials = measures
    .filter(({ aggregate }) => aggregate === 'formula' || aggregate === 'average')
    .flatMap((measure) => measurePartials(measure, engine))
    .map(partialMeasure);
  const known = new Set(measures.map(measureKey));
  const parts = [...partials, ...measures.filter(({ share }) => share).map(plainMeasure)].filter(
    (part) => !known.has(measureKey(part)),
  );
  return [...new Map(parts.map((part) => [measureKey(part), part])).values()];
}

/** Over which rows a chart's figures are, in words: "over all rows", "over the rows of 2023". */
function rowsText(filters: readonly RowFilter[], words: Vocabulary): string {
  if (!filters.length) return tell('workings.overAllRows');
  const fields = filters.map(({ field }) => words.fieldName(field));
  return tell('workings.overTheRowsThat', { fields: listed(fields, english) });
}

/** Of what the readings are shares, and over which rows that is. */
function shareStep(
  { chart, input: { cube }, filters, formulas, judged }: ChartResult,
  of: Measure,
  words: Vocabulary,
): WorkingsStep {
  const { by } = chart;
  const split = splitOf(chart);
  const whole = allSteps(wholeOfShare(cube, of, { by, split }, filters, formulas));
  const rows = rowsText(of.share === 'everything' ? [] : filters, words);
  const dimension = of.share === 'category' ? by : of.share === 'series' ? split : undefined;
  const over = dimension
    ? tell('workings.overAllOfIts', { dimension: dimensionText(dimension, words), rows })
    : tell('workings.overAll', {
        places: words.locale.count(judged.places.length),
        by: dimensionNoun(by, judged.places.length, words),
        rows,
      });
  return numberStep(
    `whole ${measureKey(of)}`,
    tell('workings.whole'),
    of.share === 'everything' ? tell('workings.ofAllRowsIgnoring') : over,
    Float64Array.from(judged.category, (category, i) =>
      whole(category, judged.series[judged.seriesOf[i]!] ?? null),
    ),
  );
}

/** Puts the workings of a chart together: its readings, then a step for each figure and each condition, state and look. */
export function workingsOf(result: ChartResult): Workings {
  const { input, chart, judged, filters, formulas, emphasis, context, labels, seriesNames } = result;
  const { cube } = input;
  const shown = result.readings.judged ?? result.readings;
  const words = vocabularyOf(input.board, input.dataset, input.engine, english);
  const { by, measure, order } = chart;
  const split = splitOf(chart);
  const rows = rowsText(filters, words);
  const measures = [
    ...new Map(
      [measure, ...furtherMeasures(chart).map((also) => also.measure), ...measuresOf(chart)].map((each) => [
        measureKey(each),
        each,
      ]),
    ).values(),
  ];
  const parts = partsOf(measures, input.engine);
  const whole = parts.length
    ? readingsOf(cube, { by, split, measure, order, others: parts, formulas }, filters)
    : null;
  const steps: WorkingsStep[] = [
    textStep(
      'by',
      atStart(dimensionText(by, words)),
      tell('workings.category'),
      (i) => labels[judged.place[i]!]!,
    ),
    ...(split && !sameDimension(split, by) && !context.readings.judged
      ? [
          textStep(
            'split',
            atStart(dimensionText(split, words)),
            tell('workings.itsSeries'),
            (i) => seriesNames[judged.seriesOf[i]!]!,
          ),
        ]
      : []),
    ...parts.map((part) =>
      numberStep(
        `part ${measureKey(part)}`,
        atStart(measureText(part, words)),
        rows,
        matched(judged, whole!, whole!.others.get(measureKey(part))!),
      ),
    ),
    ...measures.filter(({ share }) => share).map((each) => shareStep(result, each, words)),
    ...measures.map((each, m) => {
      const values = m === 0 ? shown.value : (shown.others.get(measureKey(each)) ?? shown.value);
      const note = each.aggregate === 'formula' ? `${each.text}, ${rows}` : rows;
      return numberStep(
        `measure ${measureKey(each)}`,
        atStart(measureText(each, words)),
        note,
        values,
        figureWriter(formatOf(each), words.locale).exact,
      );
    }),
  ];
  const saidOf = (condition: Chart['cues'][number]['condition']) => {
    const parts = conditionKinds.get(condition.kind).parts(condition, words, chart);
    return atStart(sentenceText({ id: '', levers: [], parts }).trim());
  };
  const inView = tell('workings.overTheReadingsIn', { n: judged.length });
  emphasis.evaluations.forEach(({ cue, evaluation, standsIn }, c) => {
    const kind = conditionKinds.get(cue.condition.kind);
    for (const { name, values } of kind.workings?.(cue.condition, context) ?? []) {
      const known = steps.some(({ id }) => id === `measure ${name}`);
      if (known) continue;
      const id = `cue ${c} ${name}`;
      const heading = atStart(name);
      if (values instanceof Float64Array) steps.push(numberStep(id, heading, inView, values));
      else
        steps.push(
          textStep(id, heading, inView, (i) => {
            const value = values[i];
            return typeof value === 'number' ? exactNumberText(value, words.locale) : String(value ?? 'null');
          }),
        );
    }
    const note = evaluation.active
      ? standsIn
        ? tell('workings.defaultWhileNothingIs')
        : inView
      : (kind.restText?.(english) ?? tell('workings.inactive'));
    steps.push(
      textStep(`cue ${c}`, saidOf(cue.condition), note, (i) =>
        evaluation.active ? verdictText(evaluation.verdict[i]!) : tell('workings.inactive'),
      ),
    );
  });
  const marks = emphasis.state.length / Math.max(1, judged.length);
  const litMark = (i: number) => {
    for (let m = 0; m < marks; m++) {
      const mark = i + m * judged.length;
      if (markStates[emphasis.state[mark]!] === 'lit') return mark;
    }
    return i;
  };
  const state = (i: number): MarkState => markStates[emphasis.state[litMark(i)]!]!;
  steps.push(textStep('state', tell('workings.state'), tell('workings.whatTheMarkIs'), state));
  if (emphasis.evaluations.length > 1)
    steps.push(
      textStep('look', tell('workings.lookSetBy'), tell('workings.theFirstSentenceThat'), (i) => {
        if (state(i) !== 'lit') return '';
        const from = emphasis.evaluations.findIndex(
          ({ evaluation }) => evaluation.active && evaluation.verdict[i] === verdicts.yes,
        );
        return from < 0 ? '' : saidOf(emphasis.evaluations[from]!.cue.condition);
      }),
    );
  return { length: judged.length, steps, state };
}

/** The readings in the order of a step: figures by size, texts as they are sorted by name; null is last either way. */
export function sortedBySteps(
  { length, steps }: Workings,
  by: string | null,
  descending: boolean,
): Int32Array {
  const order = Int32Array.from({ length }, (_, i) => i);
  const step = steps.find(({ id }) => id === by);
  if (!step) return order;
  const sign = descending ? -1 : 1;
  return order.sort((a, b) => {
    const [x, y] = [step.value(a), step.value(b)];
    if (x === null || y === null) return Number(x === null) - Number(y === null) || a - b;
    const ordered = typeof x === 'number' ? x - (y as number) : x.localeCompare(String(y));
    return sign * ordered || a - b;
  });
}
