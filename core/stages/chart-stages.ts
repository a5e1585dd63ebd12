import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { brushLever } from '../board/chart';
import type { Cue } from '../board/cue';
import type { ConditionContext } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Cube } from '../cube/cube';
import { type Readings, readingsOf } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import type { DatasetInfo } from '../dataset';
import { type Emphasis, emphasise } from '../emphasis/emphasise';
import { stretchOfInterval } from '../forms/band-span';
import { formKinds } from '../forms/registry';
import type { Scene, TextMeasure } from '../forms/scene';
import { readingsInView } from '../forms/visible';
import { type Grain, labelSteps } from '../grain';
import type { GuideMarks } from '../guides/guide-kind';
import { guideKinds } from '../guides/registry';
import type { LeverFacts } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import type { Facts, Stand } from '../levers/standing';
import { memoLast } from '../memo';
import { captionText } from '../words/caption';
import { keyText } from '../words/key-text';
import { numberTexts } from '../words/number-text';
import { vocabularyOf } from '../words/vocabulary';
import { whyText } from '../words/why';
import { stableList } from './stable';

export interface StageInput {
  board: Board;
  chart: Chart;
  dataset: DatasetInfo;
  cube: Cube;
  /** Where the levers stand, fitted to the data; the same position is the very same value. */
  stand: Stand;
  facts: Facts;
  /** The mark that the pointer or the keyboard is on; left out for none. */
  focus?: number;
  width: number;
  height: number;
  measure: TextMeasure;
  miniature: boolean;
}

/** A stretch of the plot that a span lever holds, by which it can be moved. */
export interface Brush {
  lever: string;
  /** Along the band axis, px; null while nothing is spanned. */
  stretch: { start: number; end: number } | null;
}

export interface StageOutput {
  /** The readings in view. */
  readings: Readings;
  labels: readonly string[];
  scene: Scene;
  /** What stands on the scene and can move without it. */
  guides: GuideMarks;
  brush: Brush | null;
  emphasis: Emphasis;
  /** What is lit, in words; put together when it is asked for. */
  caption(): string;
  /** Why a mark is lit, muted or plain, with numbers. */
  why(index: number): string;
}

/** How often each stage really ran. */
export interface StageRuns {
  readings: number;
  view: number;
  scene: number;
  guides: number;
  emphasis: number;
}

interface Texts {
  labels: string[];
  values: string[];
}

const extentOf = (values: Iterable<number>): [number, number] => {
  let low = 0;
  let high = 0;
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return [low, high];
};

/**
 * The way of one chart from its cube to states and geometry. Every stage remembers its last result and runs again
 * only when something it reads has changed: a lever that only lights recomputes no readings and no geometry, one that
 * only places a guide no states.
 */
export function chartStages(): { run(input: StageInput): StageOutput; runs: StageRuns } {
  const runs: StageRuns = { readings: 0, view: 0, scene: 0, guides: 0, emphasis: 0 };
  const heardCues = stableList<Cue>();
  const heardGuides = stableList<Chart['guides'][number]>();
  const filterInputs = stableList<unknown>();
  const lightInputs = stableList<unknown>();
  const guideInputs = stableList<unknown>();
  let current!: StageInput;
  const context = () => ({ lever: (id: string) => leverOf(current.board, id), stand: current.stand });

  const filtersFor = memoLast(
    (cues: readonly Cue[], _levers: Lever[], _inputs: readonly unknown[]): RowFilter[] =>
      cues
        .filter((cue) => cue.effect === 'filter')
        .map((cue) => conditionKinds.get(cue.condition.kind).rowFilter(cue.condition, context()))
        .filter((filter) => filter !== null),
  );

  const readingsFor = memoLast(
    (
      cube: Cube,
      by: Chart['by'],
      measure: Chart['measure'],
      order: Chart['order'],
      filters: readonly RowFilter[],
    ) => {
      runs.readings++;
      return readingsOf(cube, { by, measure, order }, filters);
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

  const textsFor = memoLast((readings: Readings, dataset: DatasetInfo, by: Chart['by']): Texts => {
    const type = dataset.fields.find((field) => field.key === by.field)?.type;
    return {
      labels: readings.category.map((value) => keyText(value, type, by.grain)),
      values: numberTexts(readings.value),
    };
  });

  const extentFor = memoLast((readings: Readings) => extentOf(readings.value));

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
      texts: Texts,
      low: number,
      high: number,
      guided: boolean,
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
        values: texts.values,
        width,
        height,
        extent: [low, high],
        guided,
        fit,
        labelSteps: labelSteps(grain),
        measure,
        miniature,
      });
    },
  );

  const guidesFor = memoLast(
    (guides: Chart['guides'], figures: number[][], scene: Scene, miniature: boolean): GuideMarks => {
      runs.guides++;
      const marks: GuideMarks = { lines: [], texts: [], handles: [] };
      guides.forEach((guide, i) => {
        const placed = guideKinds.get(guide.kind).place(guide, figures[i]!, scene.values);
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
        stretch: interval && stretchOfInterval(interval, scene.band, readings, by),
      };
    },
  );

  const emphasisFor = memoLast(
    (
      readings: Readings,
      by: Chart['by'],
      cues: readonly Cue[],
      _levers: Lever[],
      _inputs: readonly unknown[],
      focus: number,
    ): Emphasis => {
      runs.emphasis++;
      return emphasise(cues, conditionContext(readings, by, focus));
    },
  );

  const wholeFor = memoLast(
    (cube: Cube, by: Chart['by'], measure: Chart['measure'], order: Chart['order']): Readings =>
      readingsOf(cube, { by, measure, order }, []),
  );
  const conditionContext = (readings: Readings, by: Chart['by'], focus: number): ConditionContext => ({
    ...context(),
    readings,
    by,
    focus,
    whole: () => wholeFor(current.cube, by, current.chart.measure, current.chart.order),
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
      const guides = heardGuides(chart.guides.filter((guide) => isOn(guide.when))) as Chart['guides'];
      const filters = filtersFor(cues, board.levers, filterInputs(inputsOf(cues, 'filter')));
      const all = readingsFor(cube, chart.by, chart.measure, chart.order, filters);
      const windowLever = chart.window && leverOf(board, chart.window.lever);
      const readings = viewFor(
        all,
        chart.order,
        windowLever,
        windowLever && stand(windowLever.id),
        windowLever && facts[windowLever.id],
      );
      const texts = textsFor(readings, dataset, chart.by);
      const guideLevers = guides.flatMap((guide) => guideKinds.get(guide.kind).levers(guide));
      const figures = figuresFor(guides, readings, board.levers, guideInputs(guideLevers.map(standAt)));
      const [low, high] = extentFor(chart.window?.axis === 'fixed' ? all : readings);
      const [guideLow, guideHigh] = extentOf(figures.flat());
      const scene = sceneFor(
        chart.form,
        chart.by.grain,
        readings,
        texts,
        Math.min(low, guideLow),
        Math.max(high, guideHigh),
        guides.length > 0,
        windowLever !== undefined,
        width,
        height,
        measure,
        miniature,
      );
      const emphasis = emphasisFor(
        readings,
        chart.by,
        cues,
        board.levers,
        lightInputs(inputsOf(cues, 'light')),
        // What nobody reads must not make anybody look again.
        cues.some(readsFocus) ? (input.focus ?? -1) : -1,
      );
      const brushed = miniature ? undefined : brushLever(chart, board.levers);
      return {
        readings,
        labels: texts.labels,
        scene,
        guides: guidesFor(guides, figures, scene, miniature),
        brush: brushFor(brushed, brushed && stand(brushed.id), scene, readings, chart.by),
        emphasis,
        why: (index) => {
          const words = vocabularyOf(board, dataset);
          const context = conditionContext(readings, chart.by, input.focus ?? -1);
          return whyText(chart, emphasis, context, index, words);
        },
        caption: () => captionText(chart, filters, readings, emphasis, vocabularyOf(board, dataset)),
      };
    },
  };
}
