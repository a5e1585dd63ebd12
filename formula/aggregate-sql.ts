import { compile } from './compile';
import { type AggregateCall, type FieldScope, FormulaError, type SqlPrinter } from './compiled';
import type { Expression } from './expression';
import { tell } from './tell';

const signatures: Record<string, string> = {
  COUNT: 'COUNT(*) or COUNT(value)',
  PERCENTILE_CONT: 'PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY number)',
};
/** Aggregates that the database computes of the rows. */
const known = ['COUNT', 'SUM', 'AVG', 'MIN', 'MAX', 'STDDEV_SAMP', 'VAR_SAMP', 'PERCENTILE_CONT'];

/**
 * An aggregate of rows, checked: of numbers, except that anything can be counted. Returns how it is written in SQL.
 * Throws a `FormulaError` with the place of what is wrong.
 */
export function compileAggregate(call: AggregateCall, scope: FieldScope): (printer: SqlPrinter) => string {
  const { name, args, star, distinct, within, filter, over } = call;
  const [arg] = args;
  const written = () =>
    new FormulaError(tell('call.written', { signature: signatures[name] ?? `${name}(number)`, name }), call);
  if (!known.includes(name)) throw new FormulaError(tell('call.noAggregate', { name }), call);
  if (over) throw new FormulaError(tell('over.oneRow'), call);
  if (args.length !== (star ? 0 : 1) || (star && (name !== 'COUNT' || distinct))) throw written();
  if ((within !== undefined) !== (name === 'PERCENTILE_CONT') || (within && distinct)) throw written();

  const figure = (part: Expression) => {
    const compiled = compile(part, scope);
    if (compiled.type === 'number' || compiled.type === 'null') return compiled;
    const field = part.kind === 'name' && scope.field(part.name);
    throw new FormulaError(
      field && !field.numeric
        ? tell('call.numberField', { name, field: field.name })
        : tell('call.number', { name }),
      part,
    );
  };
  if (within && !(arg!.kind === 'value' && typeof arg!.value === 'number' && arg!.value <= 1))
    throw new FormulaError(tell('call.share'), arg!);
  const taken = star ? null : name === 'COUNT' ? compile(arg!, scope) : figure(arg!);
  const ordered = within && figure(within.by);
  const meets = filter && compile(filter, scope);
  if (meets && meets.type !== 'boolean' && meets.type !== 'null')
    throw new FormulaError(tell('where.row'), filter);

  return (printer) => {
    const inside = taken ? `${distinct ? 'DISTINCT ' : ''}(${taken.sql(printer)})` : '*';
    const group = ordered
      ? ` WITHIN GROUP (ORDER BY (${ordered.sql(printer)}) ${within!.descending ? 'DESC' : 'ASC'})`
      : '';
    const where = meets ? ` FILTER (WHERE (${meets.sql(printer)}))` : '';
    return `${name}(${inside})${group}${where}`;
  };
}
