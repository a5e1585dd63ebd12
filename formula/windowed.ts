import { aggregateFunction } from './aggregates';
import { common } from './common-type';
import { type AggregateCall, type Compiled, type Compiling, FormulaError } from './compiled';
import type { Over, Value } from './expression';
import { inOrder, must, type Type } from './fitting';
import { tell } from './tell';
import { aggregateOver, type CompiledOver, windowFunction, windowValues } from './windows';

function compiledOver(over: Over, within: Compiling): CompiledOver {
  return {
    partition: over.partition.map((part) => within.of(part)),
    order: over.order.map(({ by, descending, nullsFirst = false }) => ({
      by: within.of(by),
      descending,
      nullsFirst,
    })),
    frame: over.frame,
  };
}

const frameText = (offset: number) =>
  offset === 0
    ? 'CURRENT ROW'
    : `${Number.isFinite(offset) ? Math.abs(offset) : 'UNBOUNDED'} ${offset < 0 ? 'PRECEDING' : 'FOLLOWING'}`;

/** A function over other rows: those of its partition, in its order. */
export function windowed(expression: AggregateCall, over: Over, within: Compiling): Compiled {
  const { name, args, star = false, filter } = expression;
  if (!within.scope.windows) throw new FormulaError(tell('over.oneRow'), expression);
  const aggregate = aggregateFunction(name);
  const known = windowFunction(name);
  if (!aggregate && !known) throw new FormulaError(tell('over.none', { name }), expression);
  if (known && !over.order.length && known.gives !== 'any' && name !== 'ROW_NUMBER')
    throw new FormulaError(tell('over.order', { name }), expression);
  const takes = known ? known.takes : star ? [] : [aggregate!.takes ?? ('any' as const)];
  if (args.length > takes.length || args.length < takes.length - (known?.optional ?? 0))
    throw new FormulaError(
      tell('call.written', { signature: (known ?? aggregate!).signature, name }),
      expression,
    );
  let parts = args.map((arg, k) => {
    const wanted = takes[k]!;
    const compiled = within.of(arg);
    return wanted === 'any' ? compiled : must(compiled, wanted, arg, { place: 'takes', of: name });
  });
  let gives: Type = known
    ? known.gives === 'any'
      ? parts[0]!.type
      : known.gives
    : (aggregate!.gives ?? aggregate!.takes ?? parts[0]!.type);
  if (parts.length === 3) {
    const found = common(
      [
        { compiled: parts[0]!, at: args[0]! },
        { compiled: parts[2]!, at: args[2]! },
      ],
      { place: 'gives', of: name },
    );
    gives = found.type;
    parts = [found.parts[0]!, parts[1]!, found.parts[1]!];
  }
  const meets = filter && must(within.of(filter), 'boolean', filter, { place: 'after', of: 'WHERE' });
  const window = compiledOver(over, within);
  return {
    type: gives,
    run(rows) {
      const of = known ? known.of : aggregateOver(name, star, meets?.run(rows));
      let values: Value[] | undefined;
      const reads = parts.map((part) => part.run(rows));
      return (i) => {
        values ??= windowValues(window, rows, reads, of);
        return values[i] ?? null;
      };
    },
    sql(printer) {
      const list = parts.map((part, k) => {
        const text = `(${part.sql(printer)})`;
        return known && takes[k] === 'number' ? `trunc(${text})::int` : inOrder(part.type, text);
      });
      const order = window.order.map(
        ({ by, descending, nullsFirst }) =>
          `${inOrder(by.type, `(${by.sql(printer)})`)} ${descending ? 'DESC' : 'ASC'} NULLS ${nullsFirst ? 'FIRST' : 'LAST'}`,
      );
      const inside = [
        window.partition.length
          ? `PARTITION BY ${window.partition.map((part) => part.sql(printer)).join(', ')}`
          : '',
        order.length ? `ORDER BY ${order.join(', ')}` : '',
        window.frame
          ? `ROWS BETWEEN ${frameText(window.frame.start.offset)} AND ${frameText(window.frame.end.offset)}`
          : '',
      ].filter(Boolean);
      const where = meets ? ` FILTER (WHERE ${meets.sql(printer)})` : '';
      const text = `${name}(${star ? '*' : list.join(', ')})${where} OVER (${inside.join(' ')})`;
      return gives === 'number' ? `(${text})::double precision` : text;
    },
  };
}
