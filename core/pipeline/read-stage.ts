import type { FormulaEngine } from '@sorvik/formula/engine';
import { leversIn } from '@sorvik/formula/lever-names';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { Compare } from '../board/compare';
import type { Cue } from '../board/cue';
import type { Measure } from '../board/measure';
import { conditionKinds } from '../conditions/registry';
import type { Cube } from '../data/cube';
import type { DatasetInfo } from '../data/dataset';
import type { Dimension } from '../data/dimension';
import type { KeptCategories } from '../data/kept-categories';
import type { Readings } from '../data/readings';
import type { RowFilter } from '../data/row-filter';
import { valueTypeOf } from '../data/value-type';
import type { KeyValue } from '../data/values';
import { formKinds } from '../forms/registry';
import { leverReader } from '../levers/formula-levers';
import type { LeverContext, LeverFacts } from '../levers/lever-kind';
import { kindOf, type Lever } from '../levers/registry';
import { compareOf, furtherMeasures, splitOf } from './chart-rules';
import { comparedReadings, type NotCompared, notCompared } from './compared';
import type { Compared } from './compared-with';
import { formulaMeasures, measuresOf } from './cube-request';
import { judgedReadings, keptCategories } from './kept-categories';
import type { MeasureFormulas } from './measure-formula';
import { memoBut, memoLast, memoSteps } from './memo';
import { filledReadings } from './missing';
import { readingsInSteps, readingsOf } from './readings-of';
import { severalReadings } from './several';
import { wholeIn } from './shares';
import { stableList, stableMeasures } from './stable';
import type { PipelineInput, StageRuns } from './stage';
import { readingsInView } from './visible';

/** What a chart reads from its cube. */
export interface Read {
  filters: readonly RowFilter[];
  /** Marks in view, and all there are besides. */
  readings: Readings;
  all: Readings;
  /** What conditions judge: the readings in view, one for all marks of several measures. */
  judged: Readings;
  /** What formulas of its measures take besides the rows. */
  formulas: MeasureFormulas | undefined;
  /** The readings of all the data, without filters or window; computed when they are asked for. */
  whole(): Readings;
  /** They show how they stand against something; null while they show themselves. */
  compared: Compared | null;
  /** They were to be compared with something that there is not now: they show themselves, and it is said why. */
  notCompared: Compared | null;
}

/** What formulas of measures take: what their levers hold now, by which they are told apart, and the day. */
interface FormulaInputs {
  dataset: DatasetInfo;
  levers: readonly Lever[];
  held: readonly unknown[];
  context: LeverContext;
  today: string;
  /** Before it is there formulas have no figures: they are computed again when it comes. */
  engine: FormulaEngine | null;
}

/** What keeps rows now, and when that has to be looked at anew: the filtering cues, and where their levers stand. */
interface FilterInputs {
  cues: readonly Cue[];
  levers: readonly Lever[];
  held: readonly unknown[];
  context: LeverContext;
}

/** What keeps categories now: the keeping cues, where their levers stand, and the figures of all categories. */
interface KeepInputs extends FilterInputs {
  /** Null where no cue keeps any. */
  categories: Readings | null;
  by: Chart['by'];
  measure: Measure;
  today: string;
  engine: FormulaEngine | null;
}

/** Where the levers of cues stand. */
const heldBy = (cues: readonly Cue[], positionOf: LeverContext['positionOf']): unknown[] =>
  cues
    .flatMap((cue) => conditionKinds.get(cue.condition.kind).levers(cue.condition))
    .map((id) => positionOf(id));

/** What readings are computed from. */
interface ReadingsInputs {
  cube: Cube;
  by: Chart['by'];
  split: Chart['split'];
  measure: Measure;
  filters: readonly RowFilter[];
  /** The categories that are kept; all where there is none. */
  kept?: KeptCategories | undefined;
  formulas: MeasureFormulas | undefined;
}

const byTime = { by: 'key', direction: 'ascending' } as const;

/** The same readings over all time, for comparing with periods that are filtered out, or not kept; null where none is. */
function* readingsBefore({ cube, filters, kept, ...spec }: ReadingsInputs): Generator<void, Readings | null> {
  const others = filters.filter(({ field }) => field !== spec.by.field);
  if (others.length === filters.length && !kept) return null;
  const given = others.length ? (cube.untimed ?? cube) : cube;
  return yield* readingsInSteps(given, { ...spec, order: byTime }, others);
}

/** The marks of several measures, one after another; the readings themselves where there is one. */
const severalMarks = ({
  readings,
  measure,
  also,
}: {
  readings: Readings;
  measure: Measure;
  also: ReturnType<typeof furtherMeasures>;
}): Readings =>
  also.length ? severalReadings(readings, [measure, ...also.map((each) => each.measure)]) : readings;

/** The values that a lever holds. */
function valuesHeld(id: string, { lever: find, positionOf }: LeverContext): readonly KeyValue[] {
  const lever = find(id);
  return (lever && kindOf(lever).values?.(positionOf(id))) ?? [];
}

/** From the cube to the readings in view: filters, roll-up, missing readings, window, further measures. */
export function readStage(runs: StageRuns) {
  const filteringCues = stableList<Cue>();
  const filterHeld = stableList<unknown>();
  const keepingCues = stableList<Cue>();
  const keepHeld = stableList<unknown>();
  const otherMeasures = stableMeasures();
  const formulaHeld = stableList<unknown>();

  // Only where its levers stand is looked at: the context is new with each run.
  const filtersFor = memoBut('context', ({ cues, context }: FilterInputs): RowFilter[] =>
    cues
      .map((cue) => conditionKinds.get(cue.condition.kind).rowFilter(cue.condition, context))
      .filter((filter) => filter !== null),
  );
  const formulasFor = memoBut(
    'context',
    ({ dataset, levers, context, today, engine }: FormulaInputs): MeasureFormulas => {
      const names = {
        ...context,
        engine,
        levers,
        typeOf: (dimension: Dimension) => valueTypeOf(dimension, dataset),
      };
      return { ...names, read: leverReader(names, context.positionOf), today };
    },
  );
  const categoriesFor = memoSteps(
    ({
      cube,
      filters,
      ...spec
    }: Omit<ReadingsInputs, 'split' | 'kept'> & {
      order: Chart['order'];
      others: readonly Measure[];
    }) => readingsInSteps(cube, spec, filters),
  );
  const readingsFor = memoSteps(function* ({
    cube,
    filters,
    ...spec
  }: ReadingsInputs & {
    order: Chart['order'];
    others: readonly Measure[];
    everyPeriod: boolean;
  }) {
    runs.readings++;
    return yield* readingsInSteps(cube, spec, filters);
  });
  const filledFor = memoLast(
    ({ readings, missing }: { readings: Readings; missing: Chart['missing'] }): Readings =>
      filledReadings(readings, missing),
  );
  const viewFor = memoLast(
    ({
      readings,
      order,
      lever,
      position,
      facts,
    }: {
      readings: Readings;
      order: Chart['order'];
      lever: Lever | undefined;
      position: unknown;
      facts: LeverFacts | undefined;
    }): Readings => {
      const stretch = lever && kindOf(lever).stretch?.(lever, position, facts);
      if (!stretch) return readings;
      runs.view++;
      return readingsInView(readings, order, stretch);
    },
  );
  // Only where its levers stand is looked at: the context is new with each run.
  const keptFor = memoBut('context', ({ cues, context, categories, by, measure }: KeepInputs) =>
    categories ? (keptCategories(cues, categories, { ...context, by, measure }) ?? undefined) : undefined,
  );
  const judgedFor = memoLast(({ readings }: { readings: Readings }) => judgedReadings(readings));
  const marksFor = memoLast(severalMarks);
  const allMarksFor = memoLast(severalMarks);
  const beforeFor = memoSteps(readingsBefore);
  const comparedFor = memoSteps(function* ({
    readings,
    compare,
    reference,
    before,
    by,
    cube,
    measure,
    filters,
    formulas,
  }: ReadingsInputs & {
    readings: Readings;
    compare: Compare;
    reference: KeyValue | undefined;
    before: Readings | null;
  }): Generator<void, { readings: Readings; not: NotCompared | null }> {
    const whole = () => wholeIn(cube, measure, filters, filters, formulas);
    const compared = yield* comparedReadings(readings, compare, by.grain, reference, whole, before);
    return { readings: compared, not: notCompared(readings, compared, compare, reference) };
  });
  const comparedNow = memoLast((compared: Compared): Compared => compared);
  const wholeFor = memoLast(
    ({ cube, ...spec }: Omit<ReadingsInputs, 'filters'> & { order: Chart['order'] }): Readings =>
      readingsOf(cube, spec, []),
  );

  /** What the chart's formulas of measures take: the same again until a lever moves that one of them names. */
  const formulasNow = (
    { chart, board, dataset, positionOf, today, engine }: PipelineInput,
    context: LeverContext,
  ) => {
    const texts = formulaMeasures(chart).map(({ text = '' }) => text);
    if (!texts.length) return undefined;
    const held = formulaHeld(texts.flatMap(leversIn).map((id) => positionOf(id)));
    return formulasFor({ dataset, levers: board.levers, held, context, today, engine });
  };

  return {
    *steps(input: PipelineInput, context: LeverContext, cues: readonly Cue[]): Generator<void, Read> {
      const { board, chart, cube, positionOf, facts } = input;
      const filtering = filteringCues(cues.filter((cue) => cue.effect === 'filter'));
      const held = filterHeld(heldBy(filtering, positionOf));
      const filters = filtersFor({ cues: filtering, levers: board.levers, held, context });
      const form = formKinds.get(chart.form);
      const formulas = formulasNow(input, context);
      const { by, measure, order } = chart;
      const others = otherMeasures(measuresOf(chart));
      const keeping = keepingCues(cues.filter((cue) => cue.effect === 'keep'));
      const kept = keptFor({
        cues: keeping,
        held: keepHeld(heldBy(keeping, positionOf)),
        categories: keeping.length
          ? yield* categoriesFor({ cube, filters, by, measure, order, others, formulas })
          : null,
        by,
        measure,
        levers: board.levers,
        today: input.today,
        engine: input.engine,
        context,
      });
      const spec = { cube, by, split: splitOf(chart), measure, formulas, kept };
      const known = yield* readingsFor({
        ...spec,
        order,
        others,
        everyPeriod: form.everyPeriod ?? false,
        filters,
      });
      yield;
      const filled = filledFor({ readings: known, missing: form.lineStates ? chart.missing : undefined });
      const compare = compareOf(chart);
      const [reference] = compare?.lever === undefined ? [] : valuesHeld(compare.lever, context);
      const comparing = compare && (compare.with !== 'touched' || reference !== undefined);
      const earlier = compare?.with === 'previous' || compare?.with === 'year';
      const found = comparing
        ? yield* comparedFor({
            ...spec,
            filters,
            readings: filled,
            compare,
            reference,
            before: earlier ? yield* beforeFor({ ...spec, filters }) : null,
          })
        : null;
      const all = found && !found.not ? found.readings : filled;
      const lever = chart.window && leverOf(board, chart.window.lever);
      yield;
      const seen = viewFor({
        readings: all,
        order,
        lever,
        position: lever && positionOf(lever.id),
        facts: lever && facts[lever.id],
      });
      const also = furtherMeasures(chart);
      yield;
      const readings = marksFor({ readings: seen, measure, also });
      yield;
      const judged = judgedFor({ readings: seen });
      return {
        filters,
        formulas,
        compared: found && !found.not ? comparedNow({ compare: compare!, reference, not: null }) : null,
        notCompared: found?.not ? comparedNow({ compare: compare!, reference, not: found.not }) : null,
        judged,
        readings,
        all: all === seen ? readings : allMarksFor({ readings: all, measure, also }),
        whole: () => wholeFor({ ...spec, kept: undefined, order }),
      };
    },
  };
}
