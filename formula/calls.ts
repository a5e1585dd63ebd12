import { aggregateFunctions, isAggregate, orderedAggregates } from './aggregates';
import { dateParts, instantOf, microsOf, textOfInstant, truncations } from './calendar';
import { common } from './common-type';
import { compareValues } from './compare';
import { type AggregateCall, type Compiled, type Compiling, FormulaError, sqlTypes } from './compiled';
import type { Expression, Value } from './expression';
import { allWhole, inOrder, isTime, must, placed, strict, type Type } from './fitting';
import { nearestName } from './nearest-name';
import { type ScalarFunction, scalarFunction, scalarFunctions } from './scalars';
import { meantInstead, tell } from './tell';
import { windowed } from './windowed';
import { windowFunction, windowFunctions } from './windows';

const special = ['COALESCE', 'NULLIF', 'GREATEST', 'LEAST', 'EXTRACT', 'DATE_TRUNC', 'CURRENT_DATE'];

/** What a function gives: of values, of the rows behind a reading, or of other readings. */
export function call(expression: AggregateCall, within: Compiling): Compiled {
  const { name, args, over } = expression;
  const scalar = scalarFunction(name);
  if (over) return windowed(expression, over, within);
  if (scalar) return scalarCall(expression, scalar, within);
  if (isAggregate(name)) return aggregated(expression, within);
  if (windowFunction(name)) throw new FormulaError(tell('call.needsOver', { name }), expression);
  const parts = () => args.map((arg) => placed(arg, within.of));
  const takes = (least: number, most: number) => {
    if (args.length < least || args.length > most)
      throw new FormulaError(
        tell('call.values', { name, least, more: least === most ? 'no' : 'yes', given: args.length }),
        expression,
      );
  };
  if (name === 'COALESCE' || name === 'GREATEST' || name === 'LEAST') {
    takes(1, 50);
    const found = common(parts(), { place: 'takes', of: name });
    return firstKnown(name, found.type, found.parts);
  }
  if (name === 'NULLIF') {
    takes(2, 2);
    const found = common(parts(), { place: 'compares', of: 'NULLIF' });
    const [a, b] = found.parts;
    return {
      type: found.type,
      whole: a!.whole ?? false,
      run(rows) {
        const [x, y] = [a!.run(rows), b!.run(rows)];
        return (i) => {
          const [left, right] = [x(i), y(i)];
          return left !== null && right !== null && compareValues(left, right) === 0 ? null : left;
        };
      },
      sql: (printer) => `NULLIF(${inOrder(found.type, `(${a!.sql(printer)})`)}, ${b!.sql(printer)})`,
    };
  }
  if (name === 'EXTRACT' || name === 'DATE_TRUNC') {
    takes(2, 2);
    return ofDate(expression, within);
  }
  const names = [
    ...special,
    ...[scalarFunctions, aggregateFunctions, orderedAggregates, windowFunctions]
      .flat()
      .map((each) => each.name),
  ];
  const near = nearestName(name, names);
  throw new FormulaError(tell('call.unknown', { name, ...meantInstead(near) }), {
    from: expression.from,
    to: expression.from + name.length,
  });
}

function firstKnown(name: string, type: Type, parts: readonly Compiled[]): Compiled {
  const sign = name === 'GREATEST' ? 1 : -1;
  return {
    type,
    whole: allWhole(parts),
    run(rows) {
      const reads = parts.map((part) => part.run(rows));
      if (name === 'COALESCE')
        return (i) => {
          for (const read of reads) {
            const value = read(i);
            if (value !== null) return value;
          }
          return null;
        };
      // Nulls are passed over, as the database does.
      return (i) => {
        let best: Value = null;
        for (const read of reads) {
          const value = read(i);
          if (value !== null && (best === null || sign * compareValues(value, best) > 0)) best = value;
        }
        return best;
      };
    },
    sql: (printer) => `${name}(${parts.map((part) => inOrder(type, `(${part.sql(printer)})`)).join(', ')})`,
  };
}

/** EXTRACT(part FROM date) and DATE_TRUNC('part', date). */
function ofDate({ name, args }: AggregateCall, within: Compiling): Compiled {
  const [what, date] = args as [Expression, Expression];
  const of = within.of(date);
  if (!isTime(of.type)) throw new FormulaError(tell('call.noDate', { name, is: of.type }), date);
  if (name === 'EXTRACT') {
    const part = what.kind === 'name' ? what.name.toUpperCase() : '';
    const take = dateParts[part];
    if (!take)
      throw new FormulaError(tell('call.extract', { parts: Object.keys(dateParts).join(', ') }), what);
    return strict(
      'number',
      [of],
      (text: string) => take(new Date(instantOf(text)), microsOf(text)),
      (x) => `extract(${part} FROM ${x})::double precision`,
      { whole: part !== 'SECOND' },
    );
  }
  const unit = what.kind === 'value' && typeof what.value === 'string' ? what.value.toLowerCase() : '';
  const cut = truncations[unit];
  if (!cut)
    throw new FormulaError(tell('call.dateTrunc', { units: Object.keys(truncations).join("', '") }), what);
  const type = of.type as 'date' | 'datetime';
  return strict(
    type,
    [of],
    (text: string) => textOfInstant(cut(new Date(instantOf(text))), type),
    (x) => `date_trunc('${unit}', ${x})::${sqlTypes[type]}`,
  );
}

function scalarCall(
  { name, args, ...place }: AggregateCall,
  known: ScalarFunction,
  within: Compiling,
): Compiled {
  // POSITION('x' IN name) is read as a comparison.
  const [first] = args;
  const given =
    name === 'POSITION' && first?.kind === 'in' && first.list.length === 1
      ? [first.of, first.list[0]!]
      : args;
  const { takes, optional = 0 } = known;
  if (given.length < takes.length - optional || given.length > takes.length)
    throw new FormulaError(tell('call.written', { signature: known.signature, name }), place);
  const parts = given.map((arg, k) => must(within.of(arg), takes[k]!, arg, { place: 'takes', of: name }));
  const whole = known.whole === true || (known.keepsWhole === true && allWhole(parts));
  return strict(known.gives, parts, known.apply, known.sql, {
    whole: known.gives === 'number' && whole,
    ...(known.guarded ? { guarded: known.guarded } : {}),
  });
}

/** An aggregate of the rows behind each reading. */
function aggregated(expression: AggregateCall, { scope }: Compiling): Compiled {
  if (!scope.aggregate)
    throw new FormulaError(tell('call.severalRows', { name: expression.name }), expression);
  const found = scope.aggregate(expression);
  return {
    type: found.type,
    run: (rows) => rows.column(found.ref),
    sql: (printer) => printer.column(found.ref),
  };
}
