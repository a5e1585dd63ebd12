import { quantileSorted } from 'd3-array';
import { aggregateFunction } from './aggregates';
import { compareValues } from './compare';
import { compile } from './compile';
import {
  type AggregateCall,
  type Compiled,
  FormulaError,
  type LeverScope,
  type Rows,
  type Scope,
} from './compiled';
import type { ReadFigure } from './engine';
import type { Value } from './expression';
import { parseFormula } from './parse';
import { tell } from './tell';

/** The one name of what the marks show. */
const own = 'value';

/** What one mark shows; levers as parameters. */
const markScope = (levers: LeverScope): Scope => ({
  column: (name) => (name.toLowerCase() === own ? { ref: own, type: 'number' } : undefined),
  names: () => [own],
  ...levers,
  windows: false,
});

/** An aggregate of all the marks in view, checked; returns how it is computed. */
function compileTaken(
  call: AggregateCall,
  levers: LeverScope,
): { type: Compiled['type']; of(rows: Rows): Value } {
  const scope = markScope(levers);
  const { name, args, star, distinct, within, filter } = call;
  const known = aggregateFunction(name);
  const [arg] = args;
  if (
    args.length !== (star ? 0 : 1) ||
    (star && name !== 'COUNT') ||
    (within !== undefined) === (known !== undefined)
  )
    throw new FormulaError(
      tell('call.written', {
        signature: known?.signature ?? 'PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY value)',
        name,
      }),
      call,
    );
  const meets = filter && compile(filter, scope);
  if (meets && meets.type !== 'boolean' && meets.type !== 'null')
    throw new FormulaError(tell('figure.where'), filter);
  const taken = within ? compile(within.by, scope) : star ? null : compile(arg!, scope);
  if (taken && name !== 'COUNT' && taken.type !== 'number' && taken.type !== 'null')
    throw new FormulaError(tell('call.number', { name }), within?.by ?? arg!);
  const share = within && arg!.kind === 'value' && typeof arg!.value === 'number' ? arg!.value : Number.NaN;
  if (within && !(share >= 0 && share <= 1)) throw new FormulaError(tell('call.share'), arg!);
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

/** Reads and checks a formula that makes one figure of the marks in view, and of levers. */
export function readFigure(text: string, levers: LeverScope): ReadFigure {
  const parsed = parseFormula(text);
  if (!parsed.ok) return parsed;
  const takings = new Map<string, (rows: Rows) => Value>();
  const scope: Scope = {
    column: () => undefined,
    names: () => [],
    whyNot: (name) => (name.toLowerCase() === own ? tell('figure.together') : tell('figure.names')),
    ...levers,
    aggregate(call) {
      const { type, of } = compileTaken(call, levers);
      const ref = `${call.from}-${call.to}`;
      takings.set(ref, of);
      return { ref, type: type as 'number' };
    },
    windows: false,
  };
  try {
    const compiled = compile(parsed.expression, scope);
    if (compiled.type !== 'number' && compiled.type !== 'null')
      return { ok: false, problem: { ...parsed.expression, message: tell('figure.number') } };
    return {
      ok: true,
      run(value, more) {
        const marks: Rows = {
          length: value.length,
          column: () => (i) => (Number.isNaN(value[i]!) ? null : value[i]!),
          ...more,
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
