import { quantileSorted } from 'd3-array';
import type { LeverContext } from '../conditions/condition-kind';
import { aggregateFunction } from './aggregates';
import { compareValues } from './compare';
import { type AggregateCall, type Compiled, FormulaError, type Rows, type Scope } from './compiled';
import type { FormulaProblem, Value } from './expression';
import { formulaKit } from './kit';
import { type LeverNames, leverReader, leverScope } from './lever-gift';

/** The one name of what the marks show. */
const own = 'value';

/** What one mark shows; levers as parameters. */
const markScope = (names: LeverNames): Scope => ({
  column: (name) => (name.toLowerCase() === own ? { ref: own, type: 'number' } : undefined),
  names: () => [own],
  ...leverScope(names),
  windows: false,
});

/** An aggregate of all the marks in view, checked; returns how it is computed. */
function compileTaken(
  call: AggregateCall,
  names: LeverNames,
): { type: Compiled['type']; of(rows: Rows): Value } {
  const kit = formulaKit()!;
  const scope = markScope(names);
  const { name, args, star, distinct, within, filter } = call;
  const known = aggregateFunction(name);
  const [arg] = args;
  if (
    args.length !== (star ? 0 : 1) ||
    (star && name !== 'COUNT') ||
    (within !== undefined) === (known !== undefined)
  )
    throw new FormulaError(
      `${known?.signature ?? 'PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY value)'} is how ${name} is written.`,
      call,
    );
  const meets = filter && kit.compile(filter, scope);
  if (meets && meets.type !== 'boolean' && meets.type !== 'null')
    throw new FormulaError('What follows WHERE has to be true or false of a mark.', filter);
  const taken = within ? kit.compile(within.by, scope) : star ? null : kit.compile(arg!, scope);
  if (taken && name !== 'COUNT' && taken.type !== 'number' && taken.type !== 'null')
    throw new FormulaError(`${name} takes a number.`, within?.by ?? arg!);
  const share = within && arg!.kind === 'value' && typeof arg!.value === 'number' ? arg!.value : Number.NaN;
  if (within && !(share >= 0 && share <= 1))
    throw new FormulaError('It takes a share from 0 to 1, written as a number: 0.5 is the median.', arg!);
  return {
    type: 'number',
    of(rows) {
      const read = taken?.run(rows);
      const holds = meets?.run(rows);
      let values: Value[] = [];
      for (let i = 0; i < rows.length; i++) {
        if (holds && holds(i) !== true) continue;
        const value = read ? read(i) : true;
        if (value !== null) values.push(value);
      }
      if (distinct) values = [...new Set(values)];
      if (within) {
        const sorted = (values as number[]).sort(compareValues);
        return quantileSorted(within.descending ? sorted.reverse() : sorted, share) ?? null;
      }
      const tally = known!.tally();
      for (const value of values) tally.add(value);
      return tally.value();
    },
  };
}

export type ReadFigure =
  | { ok: true; run(value: Float64Array, context: LeverContext, today: string): number }
  | { ok: false; problem: FormulaProblem };

/**
 * Reads and checks a formula that makes one figure of the marks in view, and of levers; null while nothing is there to
 * read it with.
 */
export function readFigure(text: string, names: LeverNames): ReadFigure | null {
  const kit = formulaKit();
  if (!kit) return null;
  const parsed = kit.parse(text);
  if (!parsed.ok) return parsed;
  const takings = new Map<string, (rows: Rows) => Value>();
  const scope: Scope = {
    column: () => undefined,
    names: () => [],
    whyNot: (name) =>
      name.toLowerCase() === own
        ? 'There are many values here, one for each mark: take them together, AVG(value).'
        : `Of the marks there is value, taken together: AVG(value).`,
    ...leverScope(names),
    aggregate(call) {
      const { type, of } = compileTaken(call, names);
      const ref = `${call.from}-${call.to}`;
      takings.set(ref, of);
      return { ref, type: type as 'number' };
    },
    windows: false,
  };
  try {
    const compiled = kit.compile(parsed.expression, scope);
    if (compiled.type !== 'number' && compiled.type !== 'null')
      return { ok: false, problem: { ...parsed.expression, message: 'It has to be a number.' } };
    return {
      ok: true,
      run(value, { stand }, today) {
        const marks: Rows = {
          length: value.length,
          column: () => (i) => (Number.isNaN(value[i]!) ? null : value[i]!),
          lever: leverReader(names, stand),
          today,
        };
        const one: Rows = {
          ...marks,
          length: 1,
          column(ref) {
            const found = takings.get(ref)!(marks);
            return () => found;
          },
        };
        return (compiled.run(one)(0) as number | null) ?? Number.NaN;
      },
    };
  } catch (error) {
    if (error instanceof FormulaError) return { ok: false, problem: { ...error.at, message: error.message } };
    throw error;
  }
}

/** A formula's figure over the marks in view; NaN where it is null, or cannot be read. */
export function formulaFigure(text: string, value: Float64Array, context: LeverContext): number {
  const read = readFigure(text, { lever: context.lever, typeOf: () => 'text' });
  return read?.ok ? read.run(value, context, new Date().toISOString().slice(0, 10)) : Number.NaN;
}

/** What is wrong with a formula that is to be one figure; null when it is right or cannot be read yet. */
export function figureProblem(text: string, names: LeverNames): FormulaProblem | null {
  const read = readFigure(text, names);
  return read && !read.ok ? read.problem : null;
}
