import {
  type AggregateCall,
  type Compiled,
  FormulaError,
  type Rows,
  type Scope,
} from '@sorvik/formula/compiled';
import type { FormulaEngine } from '@sorvik/formula/engine';
import type { At, Expression, FormulaProblem } from '@sorvik/formula/expression';
import { everyPart, partsOf } from '@sorvik/formula/parts-of';
import { type Board, leverOf } from '../board/board';
import { type PartialAggregate, partialFromKey, partialKey } from '../data/cube';
import type { DatasetInfo, RowField } from '../data/dataset';
import { rowScope } from '../data/row-formula';
import { valueTypeOf } from '../data/value-type';
import { isNumeric } from '../data/values';
import { type LeverNames, leverScope } from '../levers/formula-levers';
import { tell } from '../messages/desk';

/** What is aggregated: a field or an expression, of all rows or of some. */
type Taken = Omit<PartialAggregate, 'aggregate'>;

/** What a measure formula is put together from: the aggregates that add up over the cells of a cube. */
const addable: Record<string, (taken: Taken) => PartialAggregate[]> = {
  COUNT: (taken) => [{ aggregate: 'count', ...taken }],
  SUM: (taken) => [{ aggregate: 'sum', ...taken }],
  MIN: (taken) => [{ aggregate: 'min', ...taken }],
  MAX: (taken) => [{ aggregate: 'max', ...taken }],
  AVG: (taken) => [
    { aggregate: 'sum', ...taken },
    { aggregate: 'count', ...taken },
  ],
};

/** Aggregates that cannot be put together from parts: the database is asked for each as a whole. */
const whole = ['STDDEV_SAMP', 'VAR_SAMP', 'PERCENTILE_CONT'];
const isWhole = ({ name, distinct }: AggregateCall) =>
  whole.includes(name) || (distinct === true && name in addable);

/** The partial aggregates of a call: several, where it is put together from them. */
function partialsOf(call: AggregateCall, text: string): PartialAggregate[] {
  if (isWhole(call)) return [{ aggregate: 'nonAdditive', of: text.slice(call.from, call.to) }];
  if (!call.star && !call.args.length) return [];
  return addable[call.name]?.(takenBy(call, text)) ?? [];
}

/** What a call in a formula takes, expressions as they are written there. */
function takenBy({ args: [arg], filter }: AggregateCall, text: string): Taken {
  const written = ({ from, to }: Expression) => text.slice(from, to);
  return {
    // Fields have names in small letters; without quotes they are found whatever their case.
    field: arg?.kind === 'name' ? (arg.quoted ? arg.name : arg.name.toLowerCase()) : undefined,
    ...(arg && arg.kind !== 'name' ? { of: written(arg) } : {}),
    ...(filter ? { where: written(filter) } : {}),
  };
}

/** The partial aggregates of a measure formula, each once; none where it cannot be read. */
export function formulaPartials(text: string, engine: FormulaEngine | null): PartialAggregate[] {
  const parsed = engine?.parse(text);
  if (!parsed?.ok) return [];
  const partials = new Map<string, PartialAggregate>();
  for (const part of everyPart(parsed.expression)) {
    if (part.kind !== 'call') continue;
    for (const partial of partialsOf(part, text)) partials.set(partialKey(partial), partial);
  }
  return [...partials.values()];
}

const averageOf = 'average ';
/** Longer expressions do not go into the address of a cube. */
const longestTaken = 1000;

/** What has no place inside of an aggregate: it is computed by the database, once. */
function checkRows(call: AggregateCall): void {
  for (const part of partsOf(call)) {
    if (part.to - part.from > longestTaken)
      throw new FormulaError(tell('measureFormula.thisIsLongMake'), part);
    for (const inner of everyPart(part)) {
      if (inner.kind === 'lever')
        throw new FormulaError(
          tell('measureFormula.moveTheLeverOutside', { call: call.name, lever: inner.name }),
          inner,
        );
      if (inner.kind === 'name' && !inner.quoted && inner.name.toUpperCase() === 'CURRENT_DATE')
        throw new FormulaError(tell('measureFormula.currentDateIsNot'), inner);
    }
  }
}

/** The names that mean something in a measure formula: fields, inside of aggregates, and levers. */
function measureScope(text: string, names: LeverNames, fields: readonly RowField[] | undefined): Scope {
  const numeric = (fields ?? []).filter(({ type }) => isNumeric(type)).map(({ key }) => key);
  return {
    column: () => undefined,
    names: () => numeric,
    whyNot: (name) =>
      fields?.some(({ key }) => key === name.toLowerCase())
        ? tell('measureFormula.mustBeAggregatedIn', {
            name,
            aggregate: numeric.includes(name.toLowerCase()) ? 'SUM' : 'COUNT',
          })
        : undefined,
    ...leverScope(names),
    aggregate(call) {
      const { name, args, star } = call;
      const [arg] = args;
      if (!isWhole(call)) {
        if (args.length > 1 || call.within || (!arg && !(star && name === 'COUNT')))
          throw new FormulaError(
            tell('measureFormula.takesAFieldOr', { call: name, field: numeric[0] ?? 'revenue' }),
            arg ?? call,
          );
      }
      if (fields) {
        checkRows(call);
        names.engine!.aggregate(call, rowScope(fields));
      }
      const [partial] = partialsOf(call, text);
      return {
        ref: (name === 'AVG' && !isWhole(call) ? averageOf : '') + partialKey(partial!),
        type: 'number',
      };
    },
    windows: false,
  };
}

export type ReadMeasure =
  | { ok: true; compiled: Compiled; partials: PartialAggregate[] }
  | { ok: false; problem: FormulaProblem };

/**
 * Reads and checks a measure formula; null while nothing is there to read it with. What is inside of aggregates is
 * checked where the fields are given.
 */
export function readMeasure(
  text: string,
  names: LeverNames,
  fields?: readonly RowField[],
): ReadMeasure | null {
  const { engine } = names;
  if (!engine) return null;
  const parsed = engine.parse(text);
  if (!parsed.ok) return parsed;
  const { expression } = parsed;
  const bad = (message: string, { from, to }: At): ReadMeasure => ({
    ok: false,
    problem: { from, to, message },
  });
  try {
    const compiled = engine.compile(expression, measureScope(text, names, fields));
    if (compiled.type !== 'number' && compiled.type !== 'null')
      return bad(tell('measureFormula.aMeasureIsA'), expression);
    const partials = formulaPartials(text, engine);
    if (!partials.length) return bad(tell('measureFormula.aMeasureMustUse'), expression);
    return { ok: true, compiled, partials };
  } catch (error) {
    if (error instanceof FormulaError) return bad(error.message, error.at);
    throw error;
  }
}

/** What is wrong with a measure formula on a board, in words; null when it is right or cannot be read yet. */
export function measureProblem(
  text: string,
  board: Board,
  dataset: DatasetInfo,
  engine: FormulaEngine | null,
): FormulaProblem | null {
  const names: LeverNames = {
    engine,
    lever: (id) => leverOf(board, id),
    levers: board.levers,
    typeOf: (dimension) => valueTypeOf(dimension, dataset),
  };
  const read = readMeasure(text, names, dataset.fields);
  return read && !read.ok ? read.problem : null;
}

/** What formulas of measures take besides figures: what levers are and hold, and the day. */
export interface MeasureFormulas extends LeverNames {
  read: Rows['lever'];
  today: string;
}

const missing = new Float64Array(0);

/** The figures of a measure formula, one per group, from what `formulaPartials` names in its order. NaN is null. */
export function formulaFigures(
  text: string,
  partials: readonly Float64Array[],
  length: number,
  formulas: MeasureFormulas | undefined,
): Float64Array {
  const figures = new Float64Array(length).fill(Number.NaN);
  const read = formulas && readMeasure(text, formulas);
  if (!read?.ok) return figures;
  const known = read.partials;
  const at = new Map(known.map((partial, a) => [partialKey(partial), partials[a] ?? missing]));
  const value = (ref: string) => {
    const list = at.get(ref) ?? missing;
    return (i: number) => (Number.isNaN(list[i]!) ? null : list[i]!);
  };
  const figure = read.compiled.run({
    length,
    column(ref) {
      if (!ref.startsWith(averageOf)) return value(ref);
      const partial = partialFromKey(ref.slice(averageOf.length))!;
      const [sum, count] = [
        value(partialKey(partial)),
        value(partialKey({ ...partial, aggregate: 'count' })),
      ];
      return (i) => {
        const [total, n] = [sum(i), count(i)];
        return total === null || !n ? null : total / n;
      };
    },
    lever: formulas!.read,
    today: formulas!.today,
  });
  for (let i = 0; i < length; i++) figures[i] = (figure(i) as number | null) ?? Number.NaN;
  return figures;
}
