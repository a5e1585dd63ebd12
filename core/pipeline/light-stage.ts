import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import type { Look } from '../board/look';
import type { ConditionContext } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Cube } from '../data/cube';
import { sameDimension } from '../data/dimension';
import type { Readings } from '../data/readings';
import { compareKeys, type KeyValue } from '../data/values';
import type { Edges } from '../forms/edges';
import { formKinds } from '../forms/registry';
import type { Scene, SceneText, TextMeasure } from '../forms/scene';
import type { GuideMarks } from '../guides/guide-kind';
import type { LeverContext, LeverLookup } from '../levers/lever-kind';
import type { Lever } from '../levers/registry';
import { type CategoryName, categoryNames } from './category-names';
import { againstOf, colouredBy, furtherMeasures, splitOf } from './chart-rules';
import type { ChartTexts } from './chart-texts';
import { type Emphasis, emphasise } from './emphasise';
import { groupsOfPlaces } from './groups-of-places';
import { endNames, type Labels, labelsOf, type Obstacles } from './labels';
import { type LineState, lineStatesInSteps } from './line-states';
import { memoBut, memoLast, memoSteps } from './memo';
import type { Read } from './read-stage';
import { seriesLooks } from './series-looks';
import { stableList } from './stable';
import type { PipelineInput, StageRuns } from './stage';

const noLabels: Labels = { hidden: null, texts: [] };

/** What is lit, and what is written because of that. */
export interface Lit {
  emphasis: Emphasis;
  lineStates: readonly LineState[] | null;
  names: readonly SceneText[];
  figures: Labels;
  /** The names below an upright plot, where they go by what is lit; null where they stay. */
  categories: readonly CategoryName[] | null;
  seriesLook(series: number): Look;
  /** What conditions saw. */
  context: ConditionContext;
}

const readsFocus = ({ condition }: Cue) =>
  conditionKinds.get(condition.kind).readsFocus?.(condition) ?? false;

const looksUp = ({ condition }: Cue, chart: Chart, lever: LeverLookup): boolean =>
  (conditionKinds.get(condition.kind).groups?.(condition, chart, lever) ?? []).length > 0;

/** What states depend on: `held` tells where the levers of the cues stand, the rest of the context is named besides. */
interface EmphasisInputs {
  judged: Readings;
  readings: Readings;
  by: Chart['by'];
  split: Chart['split'];
  looks(value: KeyValue): Look;
  cues: readonly Cue[];
  otherwise: Chart['otherwise'];
  levers: readonly Lever[];
  events: Board['events'];
  holidays: Board['holidays'];
  held: readonly unknown[];
  grouped: Cube | null;
  mutedBase: boolean;
  focus: number;
  focusSeries: number;
  today: string;
  engine: FormulaEngine | null;
  context: ConditionContext;
}

const emphasisOf = ({ readings, looks, cues, otherwise, mutedBase, context }: EmphasisInputs): Emphasis =>
  emphasise(cues, context, {
    otherwise: otherwise?.marks ?? 'muted',
    seriesLook: (series) => looks(readings.series[series]!),
    ...(readings.judged ? { marks: readings, mutedBase } : {}),
  });

/** By the series of all the data: none changes its colour when rows are filtered. */
function looksOfSeries({
  split,
  cube,
  own,
}: {
  split: Chart['split'];
  cube: Cube;
  own: readonly KeyValue[] | null;
}): (value: KeyValue) => Look {
  const found = split && cube.dimensions.find((dimension) => sameDimension(dimension, split));
  return seriesLooks(split, own ?? [...(found?.values ?? [])].sort(compareKeys));
}

/** What stands beside marks, and what it must leave room for. */
interface LabelInputs {
  scene: Scene;
  readings: Readings;
  emphasis: Emphasis;
  rule: Chart['labels'];
  beside(index: number): string;
  measure: TextMeasure;
  taken: Obstacles;
}

/** From readings to states: what cues say, how lines are lit in part, and which figures and names stand beside marks. */
export function lightStage(runs: StageRuns) {
  const groupsFor = memoLast(groupsOfPlaces);
  const cueHeld = stableList<unknown>();
  const seriesLookFor = memoLast(looksOfSeries);
  // All that it reads of the context is named beside it: the context is new with each run.
  const emphasisFor = memoBut('context', (inputs: EmphasisInputs): Emphasis => {
    runs.emphasis++;
    return emphasisOf(inputs);
  });
  const lineStatesFor = memoSteps(({ emphasis, readings }: { emphasis: Emphasis; readings: Readings }) =>
    lineStatesInSteps(emphasis, readings),
  );
  const namesFor = memoLast(
    ({
      scene,
      readings,
      lineStates,
      names,
      measure,
    }: {
      scene: Scene;
      readings: Readings;
      lineStates: readonly LineState[] | null;
      names: readonly string[];
      measure: TextMeasure;
    }) => (lineStates ? endNames(scene, readings, lineStates, names, measure) : []),
  );
  const categoriesFor = memoLast(
    ({
      scene,
      readings,
      emphasis,
      labels,
      measure,
    }: {
      scene: Scene;
      readings: Readings;
      emphasis: Emphasis;
      labels: readonly string[];
      measure: TextMeasure;
    }) => categoryNames(scene, readings, emphasis, labels, measure),
  );
  const labelsFor = memoLast(
    ({ scene, readings, emphasis, rule, beside, measure, taken }: LabelInputs): Labels =>
      labelsOf(scene, readings, emphasis, rule, beside, measure, taken),
  );
  const takenFor = memoLast(
    ({
      names,
      guides,
      grips,
    }: {
      names: readonly SceneText[];
      guides: GuideMarks;
      grips: readonly Edges[];
    }): Obstacles => ({ texts: [...names, ...guides.texts], lines: guides.lines, grips }),
  );

  return {
    *steps(
      input: PipelineInput,
      levers: LeverContext,
      { readings, judged, whole }: Read,
      cues: readonly Cue[],
      { scene, guides }: { scene: Scene; guides: GuideMarks },
      texts: ChartTexts,
      grips: readonly Edges[],
    ): Generator<void, Lit> {
      const { board, chart, cube, positionOf, measure, miniature, today, engine, ...pointed } = input;
      // What nobody reads must not make anybody look again.
      const pointing = cues.some(readsFocus);
      const mark = pointing ? (pointed.focus ?? -1) : -1;
      // Of several measures, what is pointed at is the reading; its series are no series of the data.
      const focus = readings.judged && mark >= 0 ? mark % judged.length : mark;
      const focusSeries = pointing && !readings.judged ? (pointed.focusSeries ?? -1) : -1;
      const split = splitOf(chart);
      const { events, holidays } = board;
      const context: ConditionContext = {
        ...levers,
        readings: judged,
        by: chart.by,
        split,
        measure: chart.measure,
        against: againstOf(chart),
        also: furtherMeasures(chart),
        focus,
        focusSeries,
        events,
        holidays,
        today,
        whole,
        dataset: chart.dataset,
        fields: input.dataset.fields,
        groupsOf: ({ field, grain }) =>
          groupsFor({ cube, by: chart.by, field, grain, places: judged.places }),
      };
      const looks = seriesLookFor({
        split: colouredBy(chart),
        cube,
        own: readings.judged ? readings.series : null,
      });
      const held = cueHeld(
        cues
          .filter((cue) => cue.effect === 'light')
          .flatMap((cue) => conditionKinds.get(cue.condition.kind).levers(cue.condition))
          .map((id) => positionOf(id)),
      );
      const emphasis = emphasisFor({
        judged,
        readings,
        by: chart.by,
        split,
        looks,
        cues,
        otherwise: chart.otherwise,
        levers: board.levers,
        events,
        holidays,
        held,
        // Only for cues that look marks up by what else their rows have.
        grouped: cues.some((cue) => looksUp(cue, chart, levers.lever)) ? cube : null,
        mutedBase: furtherMeasures(chart).some(({ base }) => base === 'muted'),
        focus,
        focusSeries,
        today,
        engine,
        context,
      });
      yield;
      const lineStates = formKinds.get(chart.form).lineStates
        ? yield* lineStatesFor({ emphasis, readings })
        : null;
      yield;
      const names = namesFor({ scene, readings, lineStates, names: texts.seriesNames, measure });
      const taken = takenFor({ names, guides, grips });
      yield;
      const beside = scene.spots?.of === 'name' ? texts.name : texts.short;
      return {
        emphasis,
        lineStates,
        names,
        figures: miniature
          ? noLabels
          : labelsFor({ scene, readings, emphasis, rule: chart.labels, beside, measure, taken }),
        categories: miniature
          ? null
          : categoriesFor({ scene, readings, emphasis, labels: texts.labels, measure }),
        seriesLook: (series) => looks(readings.series[series]!),
        context,
      };
    },
  };
}
