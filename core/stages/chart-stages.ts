import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import { conditionKinds } from '../conditions/registry';
import type { Cube } from '../cube/cube';
import { type Readings, readingsOf } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import type { DatasetInfo } from '../dataset';
import { type Emphasis, emphasise } from '../emphasis/emphasise';
import { formKinds } from '../forms/registry';
import type { Scene, TextMeasure } from '../forms/scene';
import { type Grain, labelSteps } from '../grain';
import { guideKinds } from '../guides/registry';
import type { Positions } from '../levers/lever-kind';
import { positionOf } from '../levers/positions';
import type { Lever } from '../levers/registry';
import { memoLast } from '../memo';
import { captionText } from '../words/caption';
import { keyText } from '../words/key-text';
import { numberTexts } from '../words/number-text';
import { vocabularyOf } from '../words/vocabulary';
import { stableList } from './stable';

export interface StageInput {
  board: Board;
  chart: Chart;
  dataset: DatasetInfo;
  cube: Cube;
  positions: Positions;
  width: number;
  height: number;
  measure: TextMeasure;
  miniature: boolean;
}

export interface StageOutput {
  readings: Readings;
  labels: readonly string[];
  scene: Scene;
  emphasis: Emphasis;
  caption: string;
}

/** How often each stage really ran. */
export interface StageRuns {
  readings: number;
  scene: number;
  emphasis: number;
}

interface Texts {
  labels: string[];
  values: string[];
}

/**
 * The way of one chart from its cube to states and geometry. Every stage remembers its last result and runs again
 * only when something it reads has changed: a lever that only lights recomputes no readings and no geometry.
 */
export function chartStages(): { run(input: StageInput): StageOutput; runs: StageRuns } {
  const runs: StageRuns = { readings: 0, scene: 0, emphasis: 0 };
  const filterInputs = stableList<unknown>();
  const lightInputs = stableList<unknown>();
  let current!: StageInput;

  const filtersFor = memoLast((cues: Cue[], levers: Lever[], _inputs: readonly unknown[]): RowFilter[] => {
    const lever = (id: string) => levers.find((candidate) => candidate.id === id);
    return cues
      .filter((cue) => cue.effect === 'filter' && !cue.off)
      .map((cue) =>
        conditionKinds
          .get(cue.condition.kind)
          .rowFilter(cue.condition, { lever, positions: current.positions }),
      )
      .filter((filter) => filter !== null);
  });

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

  const textsFor = memoLast((readings: Readings, dataset: DatasetInfo, by: Chart['by']): Texts => {
    const type = dataset.fields.find((field) => field.key === by.field)?.type;
    return {
      labels: readings.category.map((value) => keyText(value, type, by.grain)),
      values: numberTexts(readings.value),
    };
  });

  const sceneFor = memoLast(
    (
      form: string,
      grain: Grain | undefined,
      guides: Chart['guides'],
      readings: Readings,
      texts: Texts,
      width: number,
      height: number,
      measure: TextMeasure,
      miniature: boolean,
    ): Scene => {
      runs.scene++;
      const figures = guides.flatMap((guide) => guideKinds.get(guide.kind).figures(guide));
      const scene = formKinds.get(form).scene({
        readings,
        labels: texts.labels,
        values: texts.values,
        width,
        height,
        figures,
        labelSteps: labelSteps(grain),
        measure,
        miniature,
      });
      for (const guide of guides) {
        const placed = guideKinds.get(guide.kind).place(guide, scene.values);
        scene.lines.push(...placed.lines);
        if (!miniature) scene.texts.push(...placed.texts);
      }
      return scene;
    },
  );

  const emphasisFor = memoLast(
    (
      readings: Readings,
      by: Chart['by'],
      cues: Cue[],
      levers: Lever[],
      _inputs: readonly unknown[],
    ): Emphasis => {
      runs.emphasis++;
      const lever = (id: string) => levers.find((candidate) => candidate.id === id);
      return emphasise(cues, { readings, by, lever, positions: current.positions });
    },
  );

  /** The positions that the chart's cues of one effect read, in order. */
  const inputsOf = ({ board, chart, positions }: StageInput, effect: Cue['effect']) =>
    chart.cues
      .filter((cue) => cue.effect === effect && !cue.off)
      .flatMap((cue) => conditionKinds.get(cue.condition.kind).levers(cue.condition))
      .map((id) => {
        const lever = leverOf(board, id);
        return lever && positionOf(lever, positions);
      });

  return {
    runs,
    run(input) {
      current = input;
      const { board, chart, dataset, cube, width, height, measure, miniature } = input;
      const filters = filtersFor(chart.cues, board.levers, filterInputs(inputsOf(input, 'filter')));
      const readings = readingsFor(cube, chart.by, chart.measure, chart.order, filters);
      const texts = textsFor(readings, dataset, chart.by);
      const scene = sceneFor(
        chart.form,
        chart.by.grain,
        chart.guides,
        readings,
        texts,
        width,
        height,
        measure,
        miniature,
      );
      const emphasis = emphasisFor(
        readings,
        chart.by,
        chart.cues,
        board.levers,
        lightInputs(inputsOf(input, 'light')),
      );
      const words = vocabularyOf(board, dataset);
      return {
        readings,
        labels: texts.labels,
        scene,
        emphasis,
        caption: captionText(chart, board, input.positions, readings, emphasis, words),
      };
    },
  };
}
