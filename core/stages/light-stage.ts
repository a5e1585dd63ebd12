import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import { againstOf, alsoOf, colouredBy, splitOf } from '../board/chart-rules';
import type { Cue } from '../board/cue';
import type { Look } from '../board/look';
import type { ConditionContext } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Cube } from '../cube/cube';
import type { Readings } from '../cube/readings';
import { type Emphasis, emphasise } from '../emphasis/emphasise';
import { type Strand, strandsOf } from '../emphasis/strands';
import type { Edges } from '../forms/edges';
import { endNames, type Labels, labelsOf, type Taken } from '../forms/labels';
import { formKinds } from '../forms/registry';
import type { Scene, SceneText, TextMeasure } from '../forms/scene';
import { sameCut } from '../grain';
import type { GuideMarks } from '../guides/guide-kind';
import type { LeverContext } from '../levers/lever-kind';
import type { Lever } from '../levers/registry';
import { seriesLooks } from '../looks/series-looks';
import { memoLast } from '../memo';
import { compareKeys, type KeyValue } from '../values';
import type { ChartTexts } from './chart-texts';
import type { Read } from './read-stage';
import { stableList } from './stable';
import type { StageInput, StageRuns } from './stage';

const noLabels: Labels = { hidden: null, texts: [] };

/** What is lit, and what is written because of that. */
export interface Lit {
  emphasis: Emphasis;
  strands: readonly Strand[] | null;
  names: readonly SceneText[];
  figures: Labels;
  seriesLook(series: number): Look;
  /** What conditions see. */
  context(): ConditionContext;
}

const readsFocus = ({ condition }: Cue) =>
  conditionKinds.get(condition.kind).readsFocus?.(condition) ?? false;

/** From readings to states: what cues say, how lines are lit in part, and which figures and names stand beside marks. */
export function lightStage(
  now: () => StageInput,
  context: () => LeverContext,
  whole: () => Readings,
  runs: StageRuns,
) {
  const lightInputs = stableList<unknown>();
  const conditionContext = (judged: Readings, focus: number, focusSeries: number): ConditionContext => {
    const { board, chart } = now();
    return {
      ...context(),
      readings: judged,
      by: chart.by,
      split: splitOf(chart),
      measure: chart.measure,
      against: againstOf(chart),
      also: alsoOf(chart),
      focus,
      focusSeries,
      events: board.events,
      holidays: board.holidays,
      whole,
    };
  };

  /** By the series of all the data: none changes its colour when rows are filtered. */
  const seriesLookFor = memoLast((split: Chart['split'], cube: Cube, own: readonly KeyValue[] | null) => {
    const found = split && cube.dimensions.find((dimension) => sameCut(dimension, split));
    return seriesLooks(split, own ?? [...(found?.values ?? [])].sort(compareKeys));
  });

  const emphasisFor = memoLast(
    (
      judged: Readings,
      readings: Readings,
      _by: Chart['by'],
      _split: Chart['split'],
      looks: (value: KeyValue) => Look,
      cues: readonly Cue[],
      otherwise: Chart['otherwise'],
      _levers: Lever[],
      _events: Board['events'],
      _holidays: Board['holidays'],
      _inputs: readonly unknown[],
      mutedBase: boolean,
      focus: number,
      focusSeries: number,
    ): Emphasis => {
      runs.emphasis++;
      return emphasise(cues, conditionContext(judged, focus, focusSeries), {
        otherwise: otherwise?.marks ?? 'muted',
        seriesLook: (series) => looks(readings.series[series]!),
        ...(readings.judged ? { marks: readings, mutedBase } : {}),
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
  const takenFor = memoLast(
    (names: readonly SceneText[], { texts, lines }: GuideMarks, grips: readonly Edges[]): Taken => ({
      texts: [...names, ...texts],
      lines,
      grips,
    }),
  );

  return {
    run(
      { readings, judged }: Read,
      cues: readonly Cue[],
      scene: Scene,
      texts: ChartTexts,
      guides: GuideMarks,
      grips: readonly Edges[],
    ): Lit {
      const { board, chart, cube, stand, measure, miniature, ...pointed } = now();
      // What nobody reads must not make anybody look again.
      const pointing = cues.some(readsFocus);
      const mark = pointing ? (pointed.focus ?? -1) : -1;
      // Of several measures, what is pointed at is the reading; its series are no series of the data.
      const focus = readings.judged && mark >= 0 ? mark % judged.length : mark;
      const focusSeries = pointing && !readings.judged ? (pointed.focusSeries ?? -1) : -1;
      const looks = seriesLookFor(colouredBy(chart), cube, readings.judged ? readings.series : null);
      const inputs = cues
        .filter((cue) => cue.effect === 'light')
        .flatMap((cue) => conditionKinds.get(cue.condition.kind).levers(cue.condition))
        .map((id) => stand(id));
      const emphasis = emphasisFor(
        judged,
        readings,
        chart.by,
        splitOf(chart),
        looks,
        cues,
        chart.otherwise,
        board.levers,
        board.events,
        board.holidays,
        lightInputs(inputs),
        alsoOf(chart).some(({ base }) => base === 'muted'),
        focus,
        focusSeries,
      );
      const strands = formKinds.get(chart.form).strands ? strandsFor(emphasis, readings) : null;
      const names = namesFor(scene, readings, strands, texts.seriesNames, measure);
      const beside = scene.spots?.of === 'name' ? texts.name : texts.short;
      return {
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
              beside,
              measure,
              takenFor(names, guides, grips),
            ),
        seriesLook: (series) => looks(readings.series[series]!),
        context: () => conditionContext(judged, focus, focusSeries),
      };
    },
  };
}
