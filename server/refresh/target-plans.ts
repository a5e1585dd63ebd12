import type { CellFormat, RefreshMode } from '@sorvik/core/board/api-types';
import { cameWithRows } from '@sorvik/core/data/dataset';
import type { FieldType } from '@sorvik/core/data/values';
import { type Field, fieldsOf } from '../datasets/store';
import type { Database } from '../db/client';
import { invalid } from '../http/problem';
import { type ColumnPlan, cellReader } from '../imports/column-plan';
import { fieldKeys } from '../imports/field-keys';
import { type Inspection, UnusableFile } from '../imports/inspect';
import { tell } from '../tell';

/** What new rows are for. */
export interface Target {
  name: string;
  mode: RefreshMode;
  /** The key of the field by which rows are replaced. */
  by: string | undefined;
  fields: readonly Field[];
  /** How the columns of the files before were written. */
  formats: Readonly<Record<string, CellFormat>>;
}

const sameName = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** The field that a column is for: the one of its name. Computed fields come from no column. */
export const fieldFor = (fields: readonly Field[], column: string): Field | undefined =>
  fields.find((field) => cameWithRows(field) && sameName(field.name, column));

/** Whether a column becomes a field of its own. One that is called like a computed field is what was computed, and is left out. */
export const isNew = (fields: readonly Field[], column: string): boolean =>
  !fields.some(({ name }) => sameName(name, column));

/** Types that take what another one holds. */
const holds: Record<FieldType, readonly FieldType[]> = {
  integer: [],
  decimal: ['integer'],
  text: ['integer', 'decimal', 'boolean', 'date', 'datetime'],
  boolean: [],
  date: [],
  datetime: ['date'],
};

/** The plan of a column, with what was said of how its numbers and dates are written where its cells leave that open. */
function asBefore(plan: ColumnPlan, format: CellFormat | undefined): ColumnPlan {
  if (!format) return plan;
  if (plan.ambiguousDate && format.date !== 'ymd')
    return { ...plan, date: format.date, ambiguousDate: false };
  const number = plan.ambiguousNumbers.find(
    ({ decimal, group }) => decimal === format.number.decimal && group === format.number.group,
  );
  if (!number) return plan;
  const read = { ...plan, number, ambiguousNumbers: [] };
  const isWhole = cellReader({ ...read, type: 'integer' });
  return {
    ...read,
    type: plan.examples.every((cell) => isWhole(cell) !== undefined) ? 'integer' : 'decimal',
  };
}

/** The plan of a column for a field that is there. */
function planFor(
  plan: ColumnPlan,
  { type }: Field,
  mode: RefreshMode,
  format: CellFormat | undefined,
): ColumnPlan {
  const read = asBefore(plan, format);
  if (read.type === type) return mode === 'replace' ? read : { ...read, fixed: true };
  // A column without a single value is of any type.
  const isEmpty = !plan.examples.length;
  if (isEmpty || holds[type].includes(read.type) || mode !== 'replace')
    return { ...read, type, ambiguousDate: false, ...(mode === 'replace' ? {} : { fixed: true as const }) };
  return read;
}

/** How the columns of a file are read for a dataset. Throws where it has none of its fields, or not the key. */
export function plansFor(target: Target, inspection: Inspection): Inspection {
  const { fields, mode, by, formats, name } = target;
  const plans = inspection.plans.map((plan) => {
    const field = fieldFor(fields, plan.name);
    return field ? planFor(plan, field, mode, formats[plan.name] ?? formats[field.name]) : plan;
  });
  const found = new Set(plans.map((plan) => fieldFor(fields, plan.name)?.key));
  if (mode !== 'replace' && !fields.some(({ key }) => found.has(key)))
    throw new UnusableFile(tell('refresh.noneOfItsFields', { name }));
  if (by !== undefined && !found.has(by))
    throw new UnusableFile(
      tell('refresh.theKeyIsMissing', { field: fields.find(({ key }) => key === by)?.name ?? by }),
    );
  return { ...inspection, plans };
}

/** The keys of a file's columns: those of the fields that they are for, and new ones. */
export function keysFor(fields: readonly Field[], plans: readonly ColumnPlan[]): string[] {
  const used = fields.map(({ key }) => key);
  return plans.map((plan) => {
    const known = fieldFor(fields, plan.name)?.key;
    if (known !== undefined) return known;
    const key = fieldKeys([...used, plan.name]).at(-1)!;
    used.push(key);
    return key;
  });
}

/** The key of the field by which rows are replaced. Throws 422 where none is said, or none that rows bring with them. */
export async function keyField({ db }: Database, dataset: string, by: string | undefined): Promise<string> {
  const own = (await fieldsOf(db, dataset)).filter(cameWithRows);
  if (by === undefined || !own.some(({ key }) => key === by))
    throw invalid([
      {
        pointer: '/by',
        message: tell('refresh.sayByWhich', { fields: own.map(({ key }) => key).join(', ') }),
      },
    ]);
  return by;
}
