import { type Compiled, type FieldScope, FormulaError } from '@sorvik/formula/compiled';
import type { FormulaEngine } from '@sorvik/formula/engine';
import type { FormulaProblem, ValueType } from '@sorvik/formula/expression';
import { strict } from '@sorvik/formula/fitting';
import { once } from '@sorvik/formula/once';
import { everyPart } from '@sorvik/formula/parts-of';
import { tell } from '../messages/desk';
import type { RowField } from './dataset';
import { valueTypeOf } from './value-type';
import { type FieldType, isNumeric } from './values';

export type ReadRow =
  | {
      ok: true;
      compiled: Compiled;
      /** The same as a field can hold it. */
      held: Compiled;
      type: FieldType;
      uses: string[];
    }
  | { ok: false; problem: FormulaProblem };

const fieldTypeOf: Record<ValueType, FieldType> = {
  number: 'decimal',
  text: 'text',
  boolean: 'boolean',
  date: 'date',
  datetime: 'datetime',
};

/** The names that mean something where a row stands by itself: the fields of its dataset. */
export function rowScope(fields: readonly RowField[]): FieldScope {
  const known = new Map(fields.map((field) => [field.key, field]));
  return {
    column(name) {
      const field = known.get(name) ?? known.get(name.toLowerCase());
      return (
        field && {
          ref: field.key,
          type: valueTypeOf({ field: field.key }, { fields: [field] } as never),
          whole: field.type === 'integer',
        }
      );
    },
    field(name) {
      const field = known.get(name.toLowerCase());
      return field && { name: field.name, numeric: isNumeric(field.type) };
    },
    names: () => fields.map(({ key }) => key),
    lever: (name) => tell('rowFormula.leversCannotBeUsed', { name }),
    levers: () => [],
    windows: false,
  };
}

/** The keys of the fields that a formula names, each once; none where it cannot be read. */
export function fieldsIn(text: string, fields: readonly RowField[], engine: FormulaEngine | null): string[] {
  const parsed = engine?.parse(text);
  if (!parsed?.ok) return [];
  const scope = rowScope(fields);
  const found = [...everyPart(parsed.expression)].flatMap((part) =>
    part.kind === 'name' ? (scope.column(part.name)?.ref ?? []) : [],
  );
  return [...new Set(found)];
}

/** The keys of the fields that one is computed from, or looked up by; none where it came with the rows. */
export const madeFrom = (
  { formula, lookup }: RowField,
  fields: readonly RowField[],
  engine: FormulaEngine | null,
) => (formula !== undefined ? fieldsIn(formula, fields, engine) : lookup ? [lookup.from] : []);

/** The way from a field back to itself over computed ones: their names, or null where there is none. */
function circle(
  key: string,
  text: string,
  fields: readonly RowField[],
  engine: FormulaEngine,
): string[] | null {
  const known = new Map(fields.map((field) => [field.key, field]));
  const seen = new Set<string>();
  const leads = (from: readonly string[]): string[] | null => {
    for (const next of from) {
      const field = known.get(next)!;
      if (next === key) return [field.name];
      if (seen.has(next)) continue;
      seen.add(next);
      const way = leads(madeFrom(field, fields, engine));
      if (way) return [field.name, ...way];
    }
    return null;
  };
  return leads(fieldsIn(text, fields, engine));
}

/**
 * Reads and checks the formula of a computed field. `own` is the key of
 * the field that it is to be the formula of, which it cannot lead back to.
 */
export function readRow(
  text: string,
  fields: readonly RowField[],
  engine: FormulaEngine,
  own?: string,
): ReadRow {
  const parsed = engine.parse(text);
  if (!parsed.ok) return parsed;
  const { expression } = parsed;
  const { from, to } = expression;
  const bad = (message: string, at = { from, to }): ReadRow => ({ ok: false, problem: { ...at, message } });
  for (const part of everyPart(expression))
    if (part.kind === 'name' && !part.quoted && part.name.toUpperCase() === 'CURRENT_DATE')
      return bad(tell('rowFormula.currentDateIsNot'), {
        from: part.from,
        to: part.to,
      });
  try {
    const compiled = engine.compile(expression, rowScope(fields));
    if (compiled.type === 'null') return bad(tell('rowFormula.thisIsAlwaysEmpty'));
    const way = own === undefined ? null : circle(own, text, fields, engine);
    if (way) {
      const name = fields.find(({ key }) => key === own)!.name;
      return bad(
        way.length === 1
          ? tell('rowFormula.cannotBeComputedFrom', { name })
          : tell('rowFormula.thisGoesRoundIn', { way: [name, ...way].join(' → ') }),
      );
    }
    const whole = compiled.type === 'number' && compiled.whole === true;
    return {
      ok: true,
      compiled,
      held: whole ? wholeField(compiled) : compiled,
      type: whole ? 'integer' : fieldTypeOf[compiled.type],
      uses: fieldsIn(text, fields, engine),
    };
  } catch (error) {
    if (error instanceof FormulaError) return bad(error.message, error.at);
    throw error;
  }
}

/** Whole numbers as a field can hold them: those that a double keeps exactly; any other is null. */
function wholeField(compiled: Compiled): Compiled {
  return strict(
    'number',
    [compiled],
    (value: number) => (Number.isSafeInteger(value) ? value : null),
    (x) => once(x, (v) => `CASE WHEN abs(${v}) <= ${Number.MAX_SAFE_INTEGER} THEN ${v} END`),
    { whole: true },
  );
}

/** The fields that are computed from one or looked up by it, each after those that it hangs on itself. */
export function dependents(
  key: string,
  fields: readonly RowField[],
  engine: FormulaEngine | null,
): RowField[] {
  const found = new Set<RowField>();
  const visited = new Set<RowField>();
  const visit = (from: string) => {
    for (const field of fields) {
      if (visited.has(field) || !madeFrom(field, fields, engine).includes(from)) continue;
      visited.add(field);
      visit(field.key);
      found.add(field);
    }
  };
  visit(key);
  return [...found].reverse();
}
