import { type ColumnPlan, plainNumber } from '../column-plan';
import type { Inspection } from '../inspect';
import type { ReadColumn, ReadTable } from './format-kind';

const isDated = ({ type }: ColumnPlan) => type === 'date' || type === 'datetime';

/** The plan of a column of which its format says what it is. */
function planOf(plan: ColumnPlan, is: ReadColumn['is']): ColumnPlan {
  if (is === null) return plan;
  const known = {
    ...plan,
    number: plainNumber,
    date: 'ymd' as const,
    ambiguousDate: false,
    ambiguousNumbers: [],
  };
  if (is === 'text-or-date') return isDated(plan) && plan.date === 'ymd' ? known : { ...known, type: 'text' };
  // A number with more digits than a number keeps stays a text.
  const isNumber = is === 'integer' || is === 'decimal';
  if (isNumber && plan.type === 'text' && plan.examples.length) return plan;
  return { ...known, type: is };
}

/** How the CSV text is loaded that a file was turned into: with the types that the file says, and what was noted. */
export function typed(
  inspection: Inspection,
  { table, format }: { table: ReadTable; format: string },
): Inspection {
  return {
    ...inspection,
    format,
    plans: inspection.plans.map((plan, i) => planOf(plan, table.columns[i]?.is ?? null)),
    notes: [...table.notes, ...inspection.notes],
  };
}
