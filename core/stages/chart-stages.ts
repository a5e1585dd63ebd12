import type { Axis } from '../board/axis';
import type { Board } from '../board/board';
import { leverOf, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { againstOf, arrangementOf, brushLever, fillsUp, splitOf } from '../board/chart';
import type { Cue } from '../board/cue';
import type { Measure } from '../board/measure';
import type { Arrangement } from '../board/split';
import type { ConditionContext } from '../conditions/condition-kind';
import { figureNow } from '../conditions/figures';
import { measuredBy } from '../conditions/measured';
import { conditionKinds } from '../conditions/registry';
import type { Cube } from '../cube/cube';
import { measuresOf } from '../cube/cube-request';
import { filledReadings } from '../cube/missing';
import { type Readings, readingsOf, totalOf } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import { type Ends, endsOf } from '../cube/stack';
import type { DatasetInfo } from '../dataset';
import { type Emphasis, emphasise } from '../emphasis/emphasise';
import { type Strand, strandsOf } from '../emphasis/strands';
import { stretchOfInterval } from '../forms/band-span';
import type { Along } from '../forms/form-kind';
import { endNames, type Labels, labelsOf } from '../forms/labels';
import { formKinds } from '../forms/registry';
import type { Scene, TextMeasure } from '../forms/scene';
import type { AxisRange } from '../forms/value-axis';
import { readingsInView } from '../forms/visible';
import { type Grain, labelSteps, sameCut } from '../grain';
import type { GuideMarks } from '../guides/guide-kind';
import { guideKinds } from '../guides/registry';
import type { LeverFacts } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { mostOwnColours, seriesLooks, showsSeriesColours } from '../looks/series-looks';
import { memoLast } from '../memo';
import { compareKeys } from '../values';
import { captionText } from '../words/caption';
import { figureWriter } from '../words/figure-writer';
import { legendOf } from '../words/legend';
import { atStart } from '../words/letter-case';
import { measureText } from '../words/measure-text';
import { vocabularyOf } from '../words/vocabulary';
import { whyText } from '../words/why';
import { axisRange } from './axis-range';
import { type ChartTexts, chartTexts } from './chart-texts';
import { extentOf } from './extent';
import { stableList, stableMeasures, stableParts } from './stable';
import type { Brush, StageInput, StageOutput, StageRuns } from './stage';

const noFilters: readonly RowFilter[] = [];
const percentText = (share: number) => `${Math.round(share * 100)} %`;
const noLabels: Labels = { hidden: null, texts: [] };

/**
 * The way of one chart from its cube to states and geometry. Every stage remembers its last result and runs again
 * only when something it reads has changed: a lever that only lights recomputes no readings and no geometry, one that
 * only places a guide no states.
 */
export function chartStages(): { run(input: StageInput): StageOutput; runs: StageRuns } {
  const runs: StageRuns = { readings: 0, view: 0, scene: 0, guides: 0, emphasis: 0 };
  const heardCues = stableList<Cue>();
  const filteringCues = stableList<Cue>();
  const otherMeasures = stableMeasures();
  const heardGuides = stableList<Chart['guides'][number]>();
  const filterInputs = stableList<unknown>();
  const lightInputs = stableList<unknown>();
  const guideInputs = stableList<unknown>();
  let current!: StageInput;
  const context = () => ({ lever: (id: string) => leverOf(current.board, id), stand: current.stand });

  const filtersFor = memoLast(
    (cues: readonly Cue[], _levers: Lever[], _inputs: readonly unknown[]): RowFilter[] =>
      cues
        .map((cue) => conditionKinds.get(cue.condition.kind).rowFilter(cue.condition, context()))
        .filter((filter) => filter !== null),
  );

  const readingsFor = memoLast(
    (
      cube: Cube,
      by: Chart['by'],
      split: Chart['split'],
      measure: Chart['measure'],
      order: Chart['order'],
      others: readonly Measure[],
      everyPeriod: boolean,
      filters: readonly RowFilter[],
    ) => {
      runs.readings++;
      return readingsOf(cube, { by, split, measure, order, others, everyPeriod }, filters);
    },
  );

  const viewFor = memoLast(
    (
      readings: Readings,
      order: Chart['order'],
      lever: Lever | undefined,
      position: unknown,
      facts: LeverFacts | undefined,
    ): Readings => {
      const stretch = lever && kindOf(lever).stretch?.(lever, position, facts);
      if (!stretch) return readings;
      runs.view++;
      return readingsInView(readings, order, stretch);
    },
  );

  const textsFor = memoLast(chartTexts);

  const endsFor = memoLast(endsOf);
  const allEndsFor = memoLast(endsOf);
  const rangeFor = memoLast(
    (axis: Axis | undefined, ends: Ends, guides: readonly number[], whole: number, fromZero: boolean) =>
      axisRange(axis, ends.to, Number.isNaN(whole) ? guides : [...guides, whole], fromZero),
  );
  /** The second measure that marks stand along. */
  const alongFor = memoLast(
    (
      readings: Readings,
      against: Measure | undefined,
      measure: Measure,
      board: Board,
      dataset: DatasetInfo,
    ): Along | undefined => {
      if (!against) return undefined;
      const { value } = measuredBy(against, readings);
      const words = vocabularyOf(board, dataset);
      return {
        value,
        range: axisRange({ from: 'data' }, value, [], false),
        tickText: figureWriter(against.format).tick,
        name: `${atStart(measureText(against, words))} →`,
        across: `↑ ${atStart(measureText(measure, words))}`,
      };
    },
  );
  const growingFigures = stableList<number>();
  const sameRange = stableParts<AxisRange>();
  const filledFor = memoLast(filledReadings);
  /** The measure over all the rows that some filters keep, NaN where there is none. */
  const totalFor = memoLast(totalOf);
  const wholeOf = (chart: Chart, readings: Readings, ends: Ends, filters: readonly RowFilter[]): number => {
    const { whole } = chart;
    if (!whole) return Number.NaN;
    if (whole.of === 'figure') return figureNow(whole.figure!, { ...context(), readings });
    // Of a stack, its top.
    if (whole.of === 'largest') return extentOf(ends.to)[1];
    return totalFor(current.cube, chart.measure, whole.of === 'filters' ? filters : noFilters);
  };

  const figuresFor = memoLast(
    (
      guides: Chart['guides'],
      readings: Readings,
      _levers: Lever[],
      _inputs: readonly unknown[],
    ): number[][] =>
      guides.map((guide) => guideKinds.get(guide.kind).figures(guide, { ...context(), readings })),
  );

  const sceneFor = memoLast(
    (
      form: string,
      grain: Grain | undefined,
      readings: Readings,
      texts: ChartTexts,
      ends: Ends,
      arrangement: Arrangement,
      whole: number,
      range: AxisRange,
      along: Along | undefined,
      headRows: number,
      fit: boolean,
      width: number,
      height: number,
      measure: TextMeasure,
      miniature: boolean,
    ): Scene => {
      runs.scene++;
      return formKinds.get(form).scene({
        readings,
        labels: texts.labels,
        seriesNames: texts.seriesNames,
        valueText: texts.value,
        ends,
        stacked: arrangement !== 'beside',
        whole,
        tickText: arrangement === 'shares' ? percentText : texts.figures.tick,
        width,
        height,
        range,
        ...(along ? { along } : {}),
        headRows,
        fit,
        labelSteps: labelSteps(grain),
        measure,
        miniature,
      });
    },
  );

  const guidesFor = memoLast(
    (
      guides: Chart['guides'],
      figures: number[][],
      scene: Scene,
      readings: Readings,
      by: Chart['by'],
      events: Board['events'],
      figureText: (value: number) => string,
      measure: TextMeasure,
      miniature: boolean,
    ): GuideMarks => {
      runs.guides++;
      const marks: GuideMarks = { areas: [], lines: [], texts: [], handles: [] };
      const { values, band } = scene;
      const plot = { values, band, places: readings.places, by, events: events ?? [], figureText, measure };
      guides.forEach((guide, i) => {
        const placed = guideKinds.get(guide.kind).place(guide, figures[i]!, plot);
        marks.areas.push(...placed.areas);
        marks.lines.push(...placed.lines);
        if (miniature) return;
        marks.texts.push(...placed.texts);
        marks.handles.push(...placed.handles);
      });
      return marks;
    },
  );

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

  const emphasisFor = memoLast(
    (
      readings: Readings,
      by: Chart['by'],
      split: Chart['split'],
      cues: readonly Cue[],
      otherwise: Chart['otherwise'],
      _levers: Lever[],
      _events: Board['events'],
      _holidays: Board['holidays'],
      _inputs: readonly unknown[],
      focus: number,
      focusSeries: number,
    ): Emphasis => {
      runs.emphasis++;
      const looks = seriesLookFor(split, current.cube);
      return emphasise(cues, conditionContext(readings, by, split, focus, focusSeries), {
        otherwise: otherwise?.marks ?? 'muted',
        seriesLook: (series) => looks(readings.series[series]!),
      });
    },
  );

  const strandsFor = memoLast(strandsOf);
  const namesFor = memoLast(
    (
      scene: Scene,
      readings: Readings,
      strands: readonly Strand[] | null,
      names: readonly string[],
      measure: TextMeasure,
    ) => (strands ? endNames(scene, readings, strands, names, measure) : []),
  );
  const labelsFor = memoLast(labelsOf);

  const wholeFor = memoLast(
    (
      cube: Cube,
      by: Chart['by'],
      split: Chart['split'],
      measure: Chart['measure'],
      order: Chart['order'],
    ): Readings => readingsOf(cube, { by, split, measure, order }, []),
  );
  /** By the series of all the data: none changes its colour when rows are filtered. */
  const seriesLookFor = memoLast((split: Chart['split'], cube: Cube) => {
    const found = split && cube.dimensions.find((dimension) => sameCut(dimension, split));
    return seriesLooks(split, [...(found?.values ?? [])].sort(compareKeys));
  });
  const conditionContext = (
    readings: Readings,
    by: Chart['by'],
    split: Chart['split'],
    focus: number,
    focusSeries: number,
  ): ConditionContext => ({
    ...context(),
    readings,
    by,
    split,
    focus,
    focusSeries,
    events: current.board.events,
    holidays: current.board.holidays,
    whole: () => wholeFor(current.cube, by, split, current.chart.measure, current.chart.order),
  });
  const readsFocus = ({ condition }: Cue) =>
    conditionKinds.get(condition.kind).readsFocus?.(condition) ?? false;

  const standAt = (id: string) => current.stand(id);
  const isOn = (when: string | undefined) => {
    const lever = when === undefined ? undefined : leverOf(current.board, when);
    return !lever || (kindOf(lever).isOn?.(current.stand(lever.id)) ?? true);
  };
  /** The positions that cues of one effect read, in order. */
  const inputsOf = (cues: readonly Cue[], effect: Cue['effect']) =>
    cues
      .filter((cue) => cue.effect === effect)
      .flatMap((cue) => conditionKinds.get(cue.condition.kind).levers(cue.condition))
      .map(standAt);

  return {
    runs,
    run(input) {
      current = input;
      const { board, chart, dataset, cube, stand, facts, width, height, measure, miniature } = input;
      const cues = heardCues(chart.cues.filter((cue) => !cue.off && isOn(cue.when)));
      const filtering = filteringCues(cues.filter((cue) => cue.effect === 'filter'));
      const filters = filtersFor(filtering, board.levers, filterInputs(inputsOf(filtering, 'filter')));
      const form = formKinds.get(chart.form);
      const guides = heardGuides(
        form.round ? [] : chart.guides.filter((guide) => isOn(guide.when)),
      ) as Chart['guides'];
      const { by } = chart;
      const split = splitOf(chart);
      const against = againstOf(chart);
      const known = readingsFor(
        cube,
        by,
        split,
        chart.measure,
        chart.order,
        otherMeasures(measuresOf(chart)),
        form.everyPeriod ?? false,
        filters,
      );
      const all = filledFor(known, form.strands ? chart.missing : undefined);
      const windowLever = chart.window && leverOf(board, chart.window.lever);
      const readings = viewFor(
        all,
        chart.order,
        windowLever,
        windowLever && stand(windowLever.id),
        windowLever && facts[windowLever.id],
      );
      const texts = textsFor(readings, dataset, by, split, chart.measure);
      const guideLevers = guides.flatMap((guide) => guideKinds.get(guide.kind).levers(guide));
      const figures = figuresFor(guides, readings, board.levers, guideInputs(guideLevers.map(standAt)));
      const arrangement = arrangementOf(chart);
      const ends = endsFor(readings, arrangement);
      const whole = fillsUp(chart) ? wholeOf(chart, readings, ends, filters) : Number.NaN;
      const fixed = chart.window?.axis === 'fixed' && all !== readings;
      const growing = figures.filter((_, i) => guideKinds.get(guides[i]!.kind).grows?.(guides[i]!) ?? true);
      const range = sameRange(
        rangeFor(
          chart.axis,
          fixed ? allEndsFor(all, arrangement) : ends,
          growingFigures(growing.flat().filter((figure) => !Number.isNaN(figure))),
          whole,
          form.fromZero ?? false,
        ),
      );
      const scene = sceneFor(
        chart.form,
        chart.by.grain,
        readings,
        texts,
        ends,
        arrangement,
        whole,
        range,
        alongFor(readings, against, chart.measure, board, dataset),
        Math.max(0, ...guides.map((guide) => guideKinds.get(guide.kind).rows ?? 1)),
        windowLever !== undefined,
        width,
        height,
        measure,
        miniature,
      );
      // What nobody reads must not make anybody look again.
      const pointing = cues.some(readsFocus);
      const focus = pointing ? (input.focus ?? -1) : -1;
      const focusSeries = pointing ? (input.focusSeries ?? -1) : -1;
      const emphasis = emphasisFor(
        readings,
        by,
        split,
        cues,
        chart.otherwise,
        board.levers,
        board.events,
        board.holidays,
        lightInputs(inputsOf(cues, 'light')),
        focus,
        focusSeries,
      );
      const strands = form.strands ? strandsFor(emphasis, readings) : null;
      const names = namesFor(scene, readings, strands, texts.seriesNames, measure);
      const lookOfSeries = seriesLookFor(split, cube);
      const seriesLook = (series: number) => lookOfSeries(readings.series[series]!);
      const brushed = miniature ? undefined : brushLever(chart, board.levers);
      return {
        readings,
        labels: texts.labels,
        seriesNames: texts.seriesNames,
        name: texts.name,
        value: against
          ? (index) => {
              const other = figureWriter(against.format).full(measuredBy(against, readings).value[index]!);
              return `${texts.value(index)} at ${other}`;
            }
          : texts.value,
        scene,
        guides: guidesFor(
          guides,
          figures,
          scene,
          readings,
          by,
          board.events,
          texts.figures.full,
          measure,
          miniature,
        ),
        figureText: texts.figures.full,
        brush: brushFor(brushed, brushed && stand(brushed.id), scene, readings, by),
        emphasis,
        strands,
        names,
        figures: miniature
          ? noLabels
          : labelsFor(
              scene,
              readings,
              emphasis,
              chart.labels,
              scene.spots?.of ? texts.name : texts.short,
              measure,
              names,
            ),
        seriesLook,
        // A palette that repeats would make unlike things look alike.
        seriesColours: showsSeriesColours(split) && !(form.round && readings.series.length > mostOwnColours),
        tone: toneOf(chart, board),
        why: (index) => {
          const words = vocabularyOf(board, dataset);
          const context = conditionContext(readings, by, split, focus, focusSeries);
          return whyText(chart, emphasis, context, index, words);
        },
        caption: () => captionText(chart, filters, readings, emphasis, vocabularyOf(board, dataset)),
        legend: () =>
          legendOf(
            chart,
            readings,
            emphasis,
            context(),
            vocabularyOf(board, dataset),
            texts.seriesNames,
            seriesLook,
            scene.namesFrom !== undefined,
          ),
      };
    },
  };
}
