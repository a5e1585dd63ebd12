import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Axis } from '../board/axis';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { FurtherMeasure } from '../board/further-measure';
import { formatOf, type Measure } from '../board/measure';
import type { Arrangement } from '../board/split';
import { measuredBy } from '../conditions/measured';
import type { Measured } from '../conditions/reading-figure';
import { type Grain, labelSteps } from '../data/dimension';
import type { Ends, Readings } from '../data/readings';
import { extentOf } from '../forms/extent';
import type { Along, SecondAxis } from '../forms/form-kind';
import { formKinds } from '../forms/registry';
import type { Scene, TextMeasure } from '../forms/scene';
import type { AxisRange } from '../forms/value-axis';
import { apart } from '../guides/apart';
import type { AxisName, GuideMarks } from '../guides/guide-kind';
import { guideKinds } from '../guides/registry';
import type { LeverContext } from '../levers/lever-kind';
import type { Lever } from '../levers/registry';
import type { Locale } from '../messages/locale';
import { figureWriter } from '../words/figure-writer';
import { atStart } from '../words/letter-case';
import { measureText } from '../words/measure-text';
import { briefShareText } from '../words/number-text';
import { listed } from '../words/plural';
import { vocabularyOf } from '../words/vocabulary';
import { axisRange } from './axis-range';
import { againstOf, arrangementOf, eachItsOwn, furtherMeasures } from './chart-rules';
import type { ChartTexts } from './chart-texts';
import { hidesEnds } from './hides-ends';
import { memoBut, memoLast, memoSteps } from './memo';
import type { Read } from './read-stage';
import { stableList, stableParts } from './stable';
import { endsOf } from './stack';
import type { PipelineInput, StageRuns } from './stage';
import { wholeStage } from './whole-stage';

/** The second axis begins where its data do. */
const fromData: Axis = { from: 'data' };

const percents = { as: 'percent' } as const;

/** The measures on the second axis of a chart. */
const onSecondAxis = (chart: Chart): FurtherMeasure[] =>
  formKinds.get(chart.form).secondAxis ? furtherMeasures(chart).filter(({ axis }) => axis === 'second') : [];

/** The readings that figures on an axis are taken from: of the chart's measure, or the first on the second axis. */
export function judgedOn(judged: Readings, chart: Chart, axis: AxisName): Measured {
  const [second] = axis === 'second' ? onSecondAxis(chart) : [];
  return second ? measuredBy(second.measure, judged) : judged;
}

/** The figures of the series that are on an axis. */
function figuresOn(ends: Ends, readings: Readings, on: Uint8Array, axis: 0 | 1): Float64Array {
  if (!on.includes(1)) return axis === 0 ? ends.to : new Float64Array(0);
  return ends.to.filter((_, i) => on[readings.seriesOf[i]!] === axis);
}

/** What the reach of a value axis depends on. */
interface RangeInputs {
  axis: Axis | undefined;
  ends: Ends;
  readings: Readings;
  on: Uint8Array;
  which: 0 | 1;
  guides: readonly number[];
  wholes: Float64Array | null;
  fromZero: boolean;
}

const rangeOf = ({ axis, ends, readings, on, which, guides, wholes, fromZero }: RangeInputs): AxisRange =>
  axisRange(
    axis,
    figuresOn(ends, readings, on, which),
    // An axis without an end is none: of wholes, the largest counts.
    wholes ? [...guides, extentOf(wholes)[1]] : guides,
    fromZero,
  );

/** What the figures of guides depend on: `held` tells where their levers stand. */
interface FigureInputs {
  guides: Chart['guides'];
  second: Measure | undefined;
  judged: Readings;
  levers: readonly Lever[];
  held: readonly unknown[];
  today: string;
  engine: FormulaEngine | null;
  context: LeverContext;
}

function guideFigures({ guides, second, judged, context }: FigureInputs): number[][] {
  return guides.map((guide) => {
    const kind = guideKinds.get(guide.kind);
    const other = kind.axis?.(guide) === 'second' && second;
    const readings = other ? { ...judged, ...measuredBy(other, judged) } : judged;
    return kind.figures(guide, { ...context, readings });
  });
}

/** The second measure that marks stand along. */
function alongOf({
  readings,
  against,
  name,
  across,
  locale,
}: {
  readings: Readings;
  against: Measure | undefined;
  name: string;
  across: string;
  locale: Locale;
}): Along | undefined {
  if (!against) return undefined;
  const { value } = measuredBy(against, readings);
  return {
    value,
    range: axisRange({ from: 'data' }, value, [], false),
    tickTexts: figureWriter(formatOf(against), locale).ticks,
    name,
    across,
  };
}

const secondOf = ({
  on,
  range,
  measure,
  first,
  name,
  locale,
}: {
  on: Uint8Array;
  range: AxisRange;
  measure: Measure;
  first: string;
  name: string;
  locale: Locale;
}): SecondAxis => ({
  on,
  range,
  tickTexts: figureWriter(formatOf(measure), locale).ticks,
  first,
  name,
});

/** What the geometry of a form is made from. */
interface SceneInputs {
  form: string;
  grain: Grain | undefined;
  readings: Readings;
  texts: ChartTexts;
  ends: Ends;
  arrangement: Arrangement;
  alone: boolean;
  inside: boolean;
  wholes: Float64Array | null;
  range: AxisRange;
  along: Along | undefined;
  second: SecondAxis | undefined;
  headRows: number;
  fit: boolean;
  width: number;
  height: number;
  measure: TextMeasure;
  miniature: boolean;
}

function sceneOf({
  form,
  grain,
  texts,
  arrangement,
  along,
  second,
  ...plain
}: SceneInputs): Generator<void, Scene> {
  const { locale } = texts.figures;
  return formKinds.get(form).scene({
    ...plain,
    labels: texts.labels,
    seriesNames: texts.seriesNames,
    valueText: texts.value,
    stacked: arrangement !== 'beside',
    tickTexts: arrangement === 'shares' ? figureWriter(percents, locale).ticks : texts.figures.ticks,
    shareText: (share) => briefShareText(share, locale),
    ...(along ? { along } : {}),
    ...(second ? { second } : {}),
    labelSteps: labelSteps(grain),
  });
}

/** What guides are drawn from. */
interface GuideInputs {
  guides: Chart['guides'];
  figures: number[][];
  scene: Scene;
  readings: Readings;
  by: Chart['by'];
  events: Board['events'];
  figureText(value: number): string;
  secondText(value: number): string;
  locale: Locale;
  measure: TextMeasure;
  miniature: boolean;
  sight: number;
}

function guideMarks({
  guides,
  figures,
  scene,
  readings,
  secondText,
  miniature,
  locale,
  ...given
}: GuideInputs) {
  const marks: GuideMarks = { areas: [], lines: [], texts: [], handles: [] };
  const { values, band, second } = scene;
  const plot = {
    ...given,
    values,
    band,
    places: readings.places,
    events: given.events ?? [],
    andMore: (name: string, more: number) => listed([name], locale, 1, more + 1),
  };
  guides.forEach((guide, i) => {
    const kind = guideKinds.get(guide.kind);
    const own =
      second && kind.axis?.(guide) === 'second' ? { ...plot, values: second, figureText: secondText } : plot;
    const placed = kind.place(guide, figures[i]!, own);
    marks.areas.push(...placed.areas);
    marks.lines.push(...placed.lines);
    if (miniature) return;
    marks.texts.push(...placed.texts);
    marks.handles.push(...placed.handles);
  });
  const [low, high] = [Math.min(values.start, values.end), Math.max(values.start, values.end)];
  const upright = values.direction === 'y';
  const room = upright
    ? { upright, left: values.crossStart, right: values.crossEnd, top: low, bottom: high }
    : { upright, left: 0, right: scene.width, top: values.crossStart, bottom: values.crossEnd };
  marks.texts = apart(marks.texts, room, given.measure, hidesEnds(scene));
  return marks;
}

/** From readings to geometry: the ranges of axes, the scene of the form, and the guides on it. */
export function plotStage(runs: StageRuns) {
  const arranged = ({ readings, arrangement }: { readings: Readings; arrangement: Arrangement }): Ends =>
    endsOf(readings, arrangement);
  const endsFor = memoLast(arranged);
  const allEndsFor = memoLast(arranged);
  const wholesFor = wholeStage();
  const centredFor = memoLast(({ readings }: { readings: Readings }): number[] => {
    const [low, high] = extentOf(readings.value);
    return [-Math.max(-low, high), Math.max(-low, high)];
  });
  const guideHeld = stableList<unknown>();
  const growing = { same: stableList<number>(), second: stableList<number>() };
  const sameRange = { same: stableParts<AxisRange>(), second: stableParts<AxisRange>() };
  const rangeFor = memoLast(rangeOf);
  const secondRangeFor = memoLast(rangeOf);
  // Only where their levers stand is looked at: the context is new with each run.
  const figuresFor = memoBut('context', guideFigures);
  const alongFor = memoLast(alongOf);
  const onSecondFor = memoLast(
    ({ also, has }: { also: readonly FurtherMeasure[]; has: boolean }): Uint8Array =>
      Uint8Array.from([0, ...also.map(({ axis }) => (has && axis === 'second' ? 1 : 0))]),
  );
  const secondFor = memoLast(secondOf);
  const sceneFor = memoSteps((inputs: SceneInputs) => {
    runs.scene++;
    return sceneOf(inputs);
  });
  const bareFor = memoLast(
    ({ scene }: { scene: Scene }): Scene => ({
      ...scene,
      lines: scene.lines.filter(({ role }) => role !== 'grid'),
    }),
  );
  const guidesFor = memoLast((inputs: GuideInputs): GuideMarks => {
    runs.guides++;
    return guideMarks(inputs);
  });
  const secondWriter = memoLast(
    ({ measure, locale }: { measure: Measure | undefined; locale: Locale }) =>
      figureWriter(measure && formatOf(measure), locale).perhapsSet,
  );

  return {
    *steps(
      input: PipelineInput,
      context: LeverContext,
      read: Read,
      guides: Chart['guides'],
      texts: ChartTexts,
    ): Generator<void, { scene: Scene; guides: GuideMarks }> {
      const { board, chart, dataset, width, height, measure, miniature, positionOf } = input;
      const { readings, all, judged } = read;
      const form = formKinds.get(chart.form);
      const other = onSecondAxis(chart)[0]?.measure;
      const words = vocabularyOf(board, dataset, context.engine);
      const named = (of: Measure | undefined) => (of ? atStart(measureText(of, words)) : '');
      const kinds = guides.map((guide) => guideKinds.get(guide.kind));
      const levers = guides.flatMap((guide, i) => kinds[i]!.levers(guide));
      const figures = figuresFor({
        guides,
        second: other,
        judged,
        levers: board.levers,
        held: guideHeld(levers.map((id) => positionOf(id))),
        today: input.today,
        engine: input.engine,
        context,
      });
      yield;
      const arrangement = arrangementOf(chart);
      const ends = endsFor({ readings, arrangement });
      const fixed = chart.window?.axis === 'fixed' && all !== readings;
      const [shown, shownEnds] = fixed ? [all, allEndsFor({ readings: all, arrangement })] : [readings, ends];
      yield;
      const on = onSecondFor({ also: furtherMeasures(chart), has: form.secondAxis ?? false });
      // Comparisons stand on an axis that reaches as far below zero as above.
      const centre = read.compared ? centredFor({ readings: shown }) : [];
      const grown = (axis: AxisName) =>
        growing[axis](
          figures
            .filter(
              (_, i) =>
                (kinds[i]!.grows?.(guides[i]!) ?? true) && (kinds[i]!.axis?.(guides[i]!) ?? 'same') === axis,
            )
            .flat()
            .concat(axis === 'same' ? centre : [])
            .filter((figure) => !Number.isNaN(figure)),
        );
      yield;
      const wholes = wholesFor(input, context, read, ends);
      const reach = { ends: shownEnds, readings: shown, on, fromZero: form.fromZero ?? false };
      const range = sameRange.same(
        rangeFor({ ...reach, axis: chart.axis, which: 0, guides: grown('same'), wholes }),
      );
      const second = on.includes(1)
        ? sameRange.second(
            secondRangeFor({
              ...reach,
              // Ends that are fixed are figures of the first measure; where the data begin can hold for both.
              axis: chart.axis?.from === 'data' ? fromData : undefined,
              which: 1,
              guides: grown('second'),
              wholes: null,
            }),
          )
        : undefined;
      yield;
      const names = { first: named(chart.measure), name: named(other) };
      const drawn = yield* sceneFor({
        form: chart.form,
        grain: chart.by.grain,
        readings,
        texts,
        ends,
        arrangement,
        alone: eachItsOwn(chart),
        inside: chart.figures === 'inside',
        wholes,
        range,
        along: alongFor({
          readings,
          against: againstOf(chart),
          name: named(againstOf(chart)),
          across: names.first,
          locale: words.locale,
        }),
        second:
          second && other && secondFor({ on, range: second, measure: other, ...names, locale: words.locale }),
        headRows: Math.max(0, ...guides.map((_, i) => kinds[i]!.rows ?? 1)),
        fit: chart.window !== undefined,
        width,
        height,
        measure,
        miniature,
      });
      yield;
      const scene = chart.axis?.grid === 'none' ? bareFor({ scene: drawn }) : drawn;
      return {
        scene,
        guides: guidesFor({
          guides,
          figures,
          scene,
          readings,
          by: chart.by,
          events: board.events,
          figureText: texts.figures.perhapsSet,
          secondText: secondWriter({ measure: other, locale: words.locale }),
          locale: words.locale,
          measure,
          miniature,
          sight: width,
        }),
      };
    },
  };
}
