import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { alsoOf, compareOf, splitOf } from '../board/chart-rules';
import type { Compare } from '../board/compare';
import type { Cue } from '../board/cue';
import type { Measure } from '../board/measure';
import { conditionKinds } from '../conditions/registry';
import { comparedReadings, type NotCompared, notCompared } from '../cube/compared';
import type { Cube } from '../cube/cube';
import { formulaMeasures, measuresOf } from '../cube/cube-request';
import { filledReadings } from '../cube/missing';
import { type Readings, readingsOf } from '../cube/readings';
import type { RowFilter } from '../cube/row-filter';
import { severalReadings } from '../cube/several';
import { wholeIn } from '../cube/shares';
import type { DatasetInfo } from '../dataset';
import { formKinds } from '../forms/registry';
import { readingsInView } from '../forms/visible';
import { leverReader } from '../formula/lever-gift';
import { leversIn } from '../formula/lever-names';
import type { MeasureFormulas } from '../formula/measure-scope';
import { valueTypeOf } from '../formula/value-type';
import type { FieldCut } from '../grain';
import type { LeverContext, LeverFacts } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { memoLast } from '../memo';
import type { KeyValue } from '../values';
import { stableList, stableMeasures } from './stable';
import type { StageInput, StageRuns } from './stage';

/** What a chart reads from its cube. */
export interface Read {
  filters: readonly RowFilter[];
  /** Marks in view, and all there are besides. */
  readings: Readings;
  all: Readings;
  /** What conditions judge: the readings in view, one for all marks of several measures. */
  judged: Readings;
  /** They show how they stand against something; null while they show themselves. */
  compared: Compared | null;
  /** They were to be compared with something that there is not now: they show themselves, and it is said why. */
  notCompared: Compared | null;
}

/** What readings are compared with now. */
export interface Compared {
  compare: Compare;
  /** The category that all are compared with, where it is one. */
  reference?: KeyValue | undefined;
  /** Why nothing can be compared. */
  not: NotCompared | null;
}

/** From the cube to the readings in view: filters, roll-up, missing readings, window, further measures. */
export function readStage(now: () => StageInput, context: () => LeverContext, runs: StageRuns) {
  const filteringCues = stableList<Cue>();
  const filterInputs = stableList<unknown>();
  const otherMeasures = stableMeasures();

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
      measure: Measure,
      order: Chart['order'],
      others: readonly Measure[],
      everyPeriod: boolean,
      filters: readonly RowFilter[],
      formulas: MeasureFormulas | undefined,
    ) => {
      runs.readings++;
      return readingsOf(cube, { by, split, measure, order, others, everyPeriod, formulas }, filters);
    },
  );
  const filledFor = memoLast(filledReadings);
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
  const several = (readings: Readings, measure: Measure, also: ReturnType<typeof alsoOf>) =>
    also.length ? severalReadings(readings, [measure, ...also.map((each) => each.measure)]) : readings;
  const marksFor = memoLast(several);
  const allMarksFor = memoLast(several);
  const wholeFor = memoLast(
    (
      cube: Cube,
      by: Chart['by'],
      split: Chart['split'],
      measure: Measure,
      order: Chart['order'],
      formulas: MeasureFormulas | undefined,
    ): Readings => readingsOf(cube, { by, split, measure, order, formulas }, []),
  );

  const formulaInputs = stableList<unknown>();
  const formulasFor = memoLast(
    (dataset: DatasetInfo, levers: Lever[], _inputs: readonly unknown[], today: string): MeasureFormulas => {
      const names = { ...context(), levers, typeOf: (cut: FieldCut) => valueTypeOf(cut, dataset) };
      return { ...names, read: leverReader(names, context().stand), today };
    },
  );
  /** What the chart's formulas of measures take: the same again until a lever moves that one of them names. */
  const formulasNow = (): MeasureFormulas | undefined => {
    const { chart, board, dataset, stand } = now();
    const texts = formulaMeasures(chart).map(({ text = '' }) => text);
    if (!texts.length) return undefined;
    const named = texts.flatMap(leversIn).map((id) => stand(id));
    return formulasFor(dataset, board.levers, formulaInputs(named), new Date().toISOString().slice(0, 10));
  };

  /** The same readings over all time, for comparing with periods that filters leave out; null where none does. */
  const beforeFor = memoLast(
    (
      cube: Cube,
      by: Chart['by'],
      split: Chart['split'],
      measure: Measure,
      filters: readonly RowFilter[],
      formulas: MeasureFormulas | undefined,
    ): Readings | null => {
      const others = filters.filter(({ field }) => field !== by.field);
      if (others.length === filters.length) return null;
      const order = { by: 'key', direction: 'ascending' } as const;
      const given = others.length ? (cube.untimed ?? cube) : cube;
      return readingsOf(given, { by, split, measure, order, formulas }, others);
    },
  );
  const comparedFor = memoLast(
    (
      readings: Readings,
      compare: Compare,
      grain: Chart['by']['grain'],
      reference: KeyValue | undefined,
      cube: Cube,
      filters: readonly RowFilter[],
      formulas: MeasureFormulas | undefined,
      before: Readings | null,
    ): { readings: Readings; not: NotCompared | null } => {
      const whole = () => wholeIn(cube, now().chart.measure, filters, filters, formulas);
      const compared = comparedReadings(readings, compare, grain, reference, whole, before);
      return { readings: compared, not: notCompared(readings, compared, compare, reference) };
    },
  );
  const comparedNow = memoLast(
    (compare: Compare, reference: KeyValue | undefined, not: NotCompared | null): Compared => ({
      compare,
      reference,
      not,
    }),
  );
  /** The values that a lever holds. */
  const held = (id: string): readonly KeyValue[] => {
    const { board, stand } = now();
    const lever = leverOf(board, id);
    return (lever && kindOf(lever).values?.(stand(id))) ?? [];
  };

  return {
    formulas: formulasNow,
    run(cues: readonly Cue[]): Read {
      const { board, chart, cube, stand, facts } = now();
      const filtering = filteringCues(cues.filter((cue) => cue.effect === 'filter'));
      const inputs = filtering
        .flatMap((cue) => conditionKinds.get(cue.condition.kind).levers(cue.condition))
        .map((id) => stand(id));
      const filters = filtersFor(filtering, board.levers, filterInputs(inputs));
      const form = formKinds.get(chart.form);
      const formulas = formulasNow();
      const { by, measure, order } = chart;
      const known = readingsFor(
        cube,
        by,
        splitOf(chart),
        measure,
        order,
        otherMeasures(measuresOf(chart)),
        form.everyPeriod ?? false,
        filters,
        formulas,
      );
      const filled = filledFor(known, form.strands ? chart.missing : undefined);
      const compare = compareOf(chart);
      const [reference] = compare?.lever === undefined ? [] : held(compare.lever);
      const comparing = compare && (compare.with !== 'touched' || reference !== undefined);
      const earlier = compare?.with === 'previous' || compare?.with === 'year';
      const found = comparing
        ? comparedFor(
            filled,
            compare,
            by.grain,
            reference,
            cube,
            filters,
            formulas,
            earlier ? beforeFor(cube, by, splitOf(chart), measure, filters, formulas) : null,
          )
        : null;
      const all = found && !found.not ? found.readings : filled;
      const lever = chart.window && leverOf(board, chart.window.lever);
      const judged = viewFor(all, order, lever, lever && stand(lever.id), lever && facts[lever.id]);
      const also = alsoOf(chart);
      const readings = marksFor(judged, measure, also);
      return {
        filters,
        compared: found && !found.not ? comparedNow(compare!, reference, null) : null,
        notCompared: found?.not ? comparedNow(compare!, reference, found.not) : null,
        judged,
        readings,
        all: all === judged ? readings : allMarksFor(all, measure, also),
      };
    },
    /** The readings of all the data, without filters or window. */
    whole(): Readings {
      const { cube, chart } = now();
      return wholeFor(cube, chart.by, splitOf(chart), chart.measure, chart.order, formulasNow());
    },
  };
}
