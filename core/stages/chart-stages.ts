import { type Board, leverOf, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { againstOf, alsoOf, brushLever, colouredBy, eachItsOwn, splitOf } from '../board/chart-rules';
import type { Cue } from '../board/cue';
import type { FigureFormat } from '../board/figure-format';
import { formatOf, type Measure, plainMeasure } from '../board/measure';
import { measuredBy } from '../conditions/measured';
import { plainKey } from '../cube/compared';
import type { Readings } from '../cube/readings';
import { totalOf } from '../cube/shares';
import type { DatasetInfo } from '../dataset';
import { stretchOfInterval } from '../forms/band-span';
import { formKinds } from '../forms/registry';
import type { Scene } from '../forms/scene';
import { formulaKit } from '../formula/kit';
import { leversIn } from '../formula/lever-names';
import { markTexts } from '../formula/mark-text';
import { valueTypeOf } from '../formula/value-type';
import type { FieldCut } from '../grain';
import { kindOf, type Lever } from '../levers/registry';
import { mostOwnColours, showsSeriesColours } from '../looks/series-looks';
import { memoLast } from '../memo';
import type { KeyValue } from '../values';
import { captionText } from '../words/caption';
import { comparedText, notComparedText } from '../words/compared-text';
import { type FigureWriter, figureWriter } from '../words/figure-writer';
import { legendOf } from '../words/legend';
import { atStart } from '../words/letter-case';
import { measureText } from '../words/measure-text';
import { positionText } from '../words/position-text';
import { subtitleText } from '../words/subtitle';
import { vocabularyOf } from '../words/vocabulary';
import { whyText } from '../words/why';
import { type ChartTexts, chartTexts } from './chart-texts';
import { comparedChart } from './compared-chart';
import { gripsOf } from './grips';
import { dressedCues, heardCues, isOn } from './heard-cues';
import { lightStage } from './light-stage';
import { judgedOn, plotStage } from './plot-stage';
import { readStage } from './read-stage';
import { stableList } from './stable';
import type { Brush, StageInput, StageOutput, StageRuns } from './stage';

const noEvents: Board['events'] & object = [];

/**
 * The way of one chart from its cube to states and geometry. Every stage remembers its last result and runs again
 * only when something it reads has changed: a lever that only lights recomputes no readings and no geometry, one that
 * only places a guide no states.
 */
export function chartStages(): { run(input: StageInput): StageOutput; runs: StageRuns } {
  const runs: StageRuns = { readings: 0, view: 0, scene: 0, guides: 0, emphasis: 0 };
  let current!: StageInput;
  const now = () => current;
  const context = () => ({ lever: (id: string) => leverOf(current.board, id), stand: current.stand });
  const read = readStage(now, context, runs);
  const plot = plotStage(now, context, read.formulas, runs);
  const light = lightStage(now, context, read.whole, runs);
  const ownCues = stableList<Cue>();
  const shownCues = stableList<Cue>();
  const dressed = dressedCues();
  const heardGuides = stableList<Chart['guides'][number]>();

  const textsFor = memoLast(chartTexts);
  const shownMeasures = stableList<Measure>();
  const measureNames = stableList<string>();
  const textsOf = (readings: Readings) => {
    const { board, chart, dataset } = current;
    const words = vocabularyOf(board, dataset);
    const measures = shownMeasures([chart.measure, ...alsoOf(chart).map((also) => also.measure)]);
    const names = measureNames(measures.map((measure) => atStart(measureText(measure, words))));
    return textsFor(readings, dataset, chart.by, splitOf(chart), measures, names);
  };

  const brushFor = memoLast(
    (
      lever: Lever | undefined,
      position: unknown,
      scene: Scene,
      readings: Readings,
      by: Chart['by'],
    ): Brush | null => {
      if (!lever) return null;
      const interval = kindOf(lever).interval?.(lever, position) ?? null;
      return {
        lever: lever.id,
        stretch: interval && stretchOfInterval(interval, scene.band, readings.places, by),
      };
    },
  );

  const gripsFor = memoLast(gripsOf);

  const besideInputs = stableList<unknown>();
  const pointedInputs = stableList<unknown>();
  /** What a formula says of the marks: the same again until its readings change, or a lever that it names moves. */
  const saysFor = () =>
    memoLast(
      (
        text: string,
        readings: Readings,
        dataset: DatasetInfo,
        levers: Lever[],
        _held: readonly unknown[],
        today: string,
      ) => {
        const { chart } = current;
        const typeOf = (cut: FieldCut) => valueTypeOf(cut, dataset);
        const names = {
          by: chart.by,
          split: splitOf(chart),
          measure: chart.measure,
          against: againstOf(chart),
          also: alsoOf(chart),
          ...context(),
          levers,
          typeOf,
        };
        return markTexts(text, readings, names, current.stand, today);
      },
    );
  const besideFor = saysFor();
  const pointedFor = saysFor();
  const said = (
    text: string | undefined,
    readings: Readings,
    says: ReturnType<typeof saysFor>,
    inputs: typeof besideInputs,
  ) => {
    if (text === undefined) return null;
    const { dataset, board, stand } = current;
    const held = inputs([formulaKit(), ...leversIn(text).map(stand)]);
    return says(text, readings, dataset, board.levers, held, new Date().toISOString().slice(0, 10));
  };
  const besideTexts = memoLast(
    (texts: ChartTexts, says: (index: number) => string): ChartTexts => ({
      ...texts,
      value: says,
      short: says,
    }),
  );

  const comparedFor = memoLast(comparedChart);
  const referenceTexts = memoLast(
    (
      texts: ChartTexts,
      readings: Readings,
      reference: KeyValue | undefined,
      format?: FigureFormat,
    ): ChartTexts => {
      if (reference === undefined) return texts;
      // What all others are compared with carries its own figure.
      const own = readings.others.get(plainKey)!;
      const { full, exact, brief } = figureWriter(format);
      const isIt = (i: number) => readings.category[i] === reference;
      return {
        ...texts,
        value: (i) => (isIt(i) ? full(own[i]!) : texts.value(i)),
        exact: (i) => (isIt(i) ? exact(own[i]!) : texts.exact(i)),
        short: (i) => (isIt(i) ? brief(own[i]!) : texts.short(i)),
      };
    },
  );
  const heardOf = (chart: Chart) => heardCues(chart, context());

  return {
    runs,
    run(input) {
      current = input;
      const { board, dataset, stand, miniature } = input;
      const found = read.run(ownCues(heardOf(input.chart)));
      const { compared } = found;
      // From here on it is a chart of comparisons.
      const chart = compared ? comparedFor(input.chart, compared.compare) : input.chart;
      current = { ...input, chart };
      const form = formKinds.get(chart.form);
      const cues = dressed(shownCues(heardOf(chart)), board.events ?? noEvents);
      const guides = heardGuides(
        form.round ? [] : chart.guides.filter((guide) => isOn(guide.when, context())),
      ) as Chart['guides'];
      const { readings, judged, filters } = found;
      const plainTexts = textsOf(readings);
      const texts = compared
        ? referenceTexts(plainTexts, readings, compared.reference, formatOf(input.chart.measure))
        : plainTexts;
      const beside = said(chart.beside, readings, besideFor, besideInputs);
      const shownTexts = beside ? besideTexts(texts, beside) : texts;
      const pointed = said(chart.pointed, readings, pointedFor, pointedInputs);
      const { scene, guides: placed } = plot.run(found, guides, shownTexts);
      const brushed = miniature ? undefined : brushLever(chart, board.levers);
      const brush = brushFor(brushed, brushed && stand(brushed.id), scene, readings, chart.by);
      const {
        emphasis,
        strands,
        names,
        figures,
        seriesLook,
        context: seen,
      } = light.run(found, cues, scene, shownTexts, placed, gripsFor(brush, scene));
      const against = againstOf(chart);
      const { all } = found;
      /** A figure, and of marks that stand along a second measure that one too. */
      const withOther = (
        own: (index: number) => string,
        how: (writer: FigureWriter) => (value: number) => string,
      ) => {
        if (!against) return own;
        const write = how(figureWriter(formatOf(against)));
        const { value } = measuredBy(against, readings);
        return (index: number) => `${own(index)} at ${write(value[index]!)}`;
      };
      const onTrack = chart.window?.axis === 'fixed' && chart.order.by === 'key' && all !== readings;
      return {
        readings,
        track: onTrack ? { all, before: Math.max(0, all.places.indexOf(readings.places[0]!)) } : null,
        judgedOn: (axis) => judgedOn(judged, chart, axis),
        labels: texts.labels,
        seriesNames: texts.seriesNames,
        name: texts.name,
        value: withOther(texts.value, (writer) => writer.full),
        exact: withOther(texts.exact, (writer) => writer.exact),
        figureText: texts.figures.full,
        scene,
        guides: placed,
        brush,
        emphasis,
        strands,
        names,
        figures,
        seriesLook,
        // A palette that repeats would make unlike things look alike.
        seriesColours:
          showsSeriesColours(colouredBy(chart)) &&
          !((form.round || eachItsOwn(chart)) && readings.series.length > mostOwnColours),
        tone: toneOf(chart, board),
        forWorkings: () => ({
          chart,
          cube: input.cube,
          judged,
          filters,
          formulas: read.formulas(),
          emphasis,
          context: seen(),
          words: vocabularyOf(board, dataset),
          labels: texts.labels,
          seriesNames: texts.seriesNames,
        }),
        pointed: (index) => pointed?.(index) ?? '',
        why: (index) => whyText(chart, emphasis, seen(), index, vocabularyOf(board, dataset)),
        subtitle: () => {
          return subtitleText(chart.subtitle ?? '', {
            lit: emphasis.litReadings,
            all: judged.length,
            total: () => {
              const { measure } = input.chart;
              // Of shares the total is what they are shares of.
              const over = measure.share === 'everything' ? [] : filters;
              return figureWriter(measure.share ? undefined : measure.format).full(
                totalOf(input.cube, plainMeasure(measure), over, read.formulas()),
              );
            },
            lever(id) {
              const lever = leverOf(board, id);
              return lever
                ? positionText(lever, stand(id), input.facts[id], vocabularyOf(board, dataset))
                : `{${id}}`;
            },
          });
        },
        caption: () => {
          const words = vocabularyOf(board, dataset);
          const said = captionText(
            chart,
            filters,
            readings,
            emphasis,
            words,
            compared ? texts.value : undefined,
          );
          if (found.notCompared) return `${notComparedText(chart, found.notCompared, words)} ${said}`;
          return compared ? `${atStart(comparedText(chart, compared, words))}. ${said}` : said;
        },
        legend: () =>
          legendOf(
            chart,
            readings,
            emphasis,
            context(),
            vocabularyOf(board, dataset),
            texts.seriesNames,
            seriesLook,
            // Beside their lines or bars, or over the columns of a table.
            scene.namesFrom !== undefined ||
              eachItsOwn(chart) ||
              (form.listsReadings === true && readings.judged !== undefined),
          ),
      };
    },
  };
}
