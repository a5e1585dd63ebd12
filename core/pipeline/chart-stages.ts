import type { FormulaEngine } from '@sorvik/formula/engine';
import { leversIn } from '@sorvik/formula/lever-names';
import { type Board, leverOf, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { Compare } from '../board/compare';
import type { Cue } from '../board/cue';
import type { FigureFormat } from '../board/figure-format';
import { formatOf, type Measure } from '../board/measure';
import { measuredBy } from '../conditions/measured';
import { allSteps } from '../data/all-steps';
import type { DatasetInfo } from '../data/dataset';
import type { Dimension } from '../data/dimension';
import type { Readings } from '../data/readings';
import { valueTypeOf } from '../data/value-type';
import type { KeyValue } from '../data/values';
import { formKinds } from '../forms/registry';
import type { Scene } from '../forms/scene';
import type { AxisName } from '../guides/guide-kind';
import type { LeverContext } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { type FigureWriter, figureWriter } from '../words/figure-writer';
import { atStart } from '../words/letter-case';
import { measureText } from '../words/measure-text';
import { vocabularyOf } from '../words/vocabulary';
import { stretchOfInterval } from './band-span';
import { againstOf, brushLever, colouredBy, furtherMeasures, splitOf } from './chart-rules';
import { type ChartTexts, chartTexts } from './chart-texts';
import { plainKey } from './compared';
import { comparedChart } from './compared-chart';
import { dressedCues, enabledCues, isOn } from './enabled-cues';
import { gripsOf } from './grips';
import { lightStage } from './light-stage';
import { markTexts } from './mark-formula';
import { memoBut, memoLast } from './memo';
import { judgedOn, plotStage } from './plot-stage';
import { readStage } from './read-stage';
import { showsSeriesColours } from './series-looks';
import { stableList } from './stable';
import type { Brush, ChartResult, PipelineInput, StageRuns } from './stage';

const noEvents: Board['events'] & object = [];

/** What the stretch of a span lever on a plot depends on. */
interface BrushInputs {
  lever: Lever | undefined;
  position: unknown;
  scene: Scene;
  readings: Readings;
  by: Chart['by'];
}

function brushOf({ lever, position, scene, readings, by }: BrushInputs): Brush | null {
  if (!lever) return null;
  const interval = kindOf(lever).interval?.(lever, position) ?? null;
  const stretch = interval && stretchOfInterval(interval, scene.band, readings.places, by);
  return { lever: lever.id, stretch };
}

/** What a formula says of marks from: `held` tells where the levers stand that it names. */
interface SaysInputs {
  text: string;
  readings: Readings;
  dataset: DatasetInfo;
  levers: readonly Lever[];
  held: readonly unknown[];
  today: string;
  engine: FormulaEngine | null;
  chart: Chart;
  context: LeverContext;
  locale: Locale;
}

const saysOf = ({ text, readings, dataset, levers, today, engine, chart, context, locale }: SaysInputs) =>
  markTexts(
    text,
    readings,
    {
      by: chart.by,
      split: splitOf(chart),
      measure: chart.measure,
      against: againstOf(chart),
      also: furtherMeasures(chart),
      engine,
      lever: context.lever,
      levers,
      typeOf: (dimension: Dimension) => valueTypeOf(dimension, dataset),
    },
    context.positionOf,
    today,
    locale,
  );

/** What a formula says of the marks: the same again until its readings change, or a lever that it names moves. */
function markFormula() {
  const list = stableList<unknown>();
  const says = memoBut('context', saysOf);
  return (
    { dataset, board, positionOf, today, engine }: PipelineInput,
    text: string | undefined,
    more: Pick<SaysInputs, 'readings' | 'chart' | 'context' | 'locale'>,
  ) => {
    if (text === undefined) return null;
    const held = list(leversIn(text).map(positionOf));
    return says({ text, dataset, levers: board.levers, held, today, engine, ...more });
  };
}

/** What all others are compared with carries its own figure. */
function referenceTexts({
  texts,
  readings,
  reference,
  format,
  locale,
}: {
  texts: ChartTexts;
  readings: Readings;
  reference: KeyValue | undefined;
  format: FigureFormat | undefined;
  locale: Locale;
}): ChartTexts {
  if (reference === undefined) return texts;
  const own = readings.others.get(plainKey)!;
  const { full, exact, brief } = figureWriter(format, locale);
  const isIt = (i: number) => readings.category[i] === reference;
  return {
    ...texts,
    value: (i) => (isIt(i) ? full(own[i]!) : texts.value(i)),
    exact: (i) => (isIt(i) ? exact(own[i]!) : texts.exact(i)),
    short: (i) => (isIt(i) ? brief(own[i]!) : texts.short(i)),
  };
}

/** A figure, and of marks that stand along a second measure that one too. */
function withOther(
  own: (index: number) => string,
  against: Measure | undefined,
  readings: Readings,
  locale: Locale,
  how: (writer: FigureWriter) => (value: number) => string,
): (index: number) => string {
  if (!against) return own;
  const write = how(figureWriter(formatOf(against), locale));
  const { value } = measuredBy(against, readings);
  return (index) => say(locale, 'figure.at', { figure: own(index), at: write(value[index]!) });
}

/**
 * The way of one chart from its cube to states and geometry. Every stage remembers its last result and runs again
 * only when something it reads has changed: a lever that only lights recomputes no readings and no geometry, one that
 * only places a guide no states.
 */
export function chartStages(): {
  run(input: PipelineInput): ChartResult;
  /** The same in steps, between which something else can be done. */
  steps(input: PipelineInput): Generator<void, ChartResult>;
  runs: StageRuns;
} {
  const runs: StageRuns = { readings: 0, view: 0, scene: 0, guides: 0, emphasis: 0 };
  const read = readStage(runs);
  const plot = plotStage(runs);
  const light = lightStage(runs);
  const ownCues = stableList<Cue>();
  const shownCues = stableList<Cue>();
  const dressed = dressedCues();
  const enabledGuides = stableList<Chart['guides'][number]>();
  const textsFor = memoLast(chartTexts);
  const shownMeasures = stableList<Measure>();
  const measureNames = stableList<string>();
  const brushFor = memoLast(brushOf);
  const gripsFor = memoLast(({ brush, scene }: { brush: Brush | null; scene: Scene }) =>
    gripsOf(brush, scene),
  );
  const labelFormulaOf = markFormula();
  const tooltipFormulaOf = markFormula();
  const labelTexts = memoLast(
    ({ texts, says }: { texts: ChartTexts; says: (index: number) => string }): ChartTexts => ({
      ...texts,
      value: says,
      short: says,
    }),
  );
  const comparedFor = memoLast(({ chart, compare }: { chart: Chart; compare: Compare }) =>
    comparedChart(chart, compare),
  );
  const referenceFor = memoLast(referenceTexts);

  return {
    runs,
    run(given) {
      return allSteps(this.steps(given));
    },
    *steps(given) {
      const { board, dataset, positionOf, today, engine, miniature } = given;
      const context: LeverContext = { lever: (id) => leverOf(board, id), positionOf, today, engine };
      const found = yield* read.steps(given, context, ownCues(enabledCues(given.chart, context)));
      yield;
      const { compared, readings, judged, all } = found;
      // From here on it is a chart of comparisons.
      const chart = compared ? comparedFor({ chart: given.chart, compare: compared.compare }) : given.chart;
      const input = { ...given, chart };
      const form = formKinds.get(chart.form);
      const cues = dressed({
        cues: shownCues(enabledCues(chart, context)),
        events: board.events ?? noEvents,
      });
      const guides = enabledGuides(
        form.round ? [] : chart.guides.filter((guide) => isOn(guide.when, context)),
      ) as Chart['guides'];
      const words = vocabularyOf(board, dataset, engine);
      const { locale } = words;
      const measures = shownMeasures([chart.measure, ...furtherMeasures(chart).map((also) => also.measure)]);
      const plainTexts = textsFor({
        readings,
        dataset,
        by: chart.by,
        split: splitOf(chart),
        measures,
        measureNames: measureNames(measures.map((measure) => atStart(measureText(measure, words)))),
        locale,
      });
      const texts = compared
        ? referenceFor({
            texts: plainTexts,
            readings,
            reference: compared.reference,
            format: formatOf(given.chart.measure),
            locale,
          })
        : plainTexts;
      const marks = { readings, chart, context, locale };
      const label = labelFormulaOf(given, chart.beside, marks);
      const shownTexts = label ? labelTexts({ texts, says: label }) : texts;
      const tooltip = tooltipFormulaOf(given, chart.pointed, marks);
      const plotted = yield* plot.steps(input, context, found, guides, shownTexts);
      yield;
      const { scene } = plotted;
      const brushed = miniature ? undefined : brushLever(chart, board.levers);
      const brush = brushFor({
        lever: brushed,
        position: brushed && positionOf(brushed.id),
        scene,
        readings,
        by: chart.by,
      });
      const lit = yield* light.steps(
        input,
        context,
        found,
        cues,
        plotted,
        shownTexts,
        gripsFor({ brush, scene }),
      );
      yield;
      const against = againstOf(chart);
      const onTrack = chart.window?.axis === 'fixed' && chart.order.by === 'key' && all !== readings;
      return Object.freeze({
        input: given,
        chart,
        readings,
        judged,
        filters: found.filters,
        formulas: found.formulas,
        compared,
        notCompared: found.notCompared,
        track: onTrack ? { all, before: Math.max(0, all.places.indexOf(readings.places[0]!)) } : null,
        judgedOn: (axis: AxisName) => judgedOn(judged, chart, axis),
        labels: texts.labels,
        seriesNames: texts.seriesNames,
        name: texts.name,
        value: withOther(texts.value, against, readings, locale, (writer) => writer.full),
        exact: withOther(texts.exact, against, readings, locale, (writer) => writer.exact),
        figureText: texts.figures.full,
        scene,
        guides: plotted.guides,
        brush,
        ...lit,
        seriesColours: showsSeriesColours(colouredBy(chart)),
        tone: toneOf(chart, board),
        tooltipText: (index: number) => tooltip?.(index) ?? '',
      });
    },
  };
}
