import type { Lookup } from '@sorvik/core/data/dataset';
import type { FieldType } from '@sorvik/core/data/values';
import type { FormulaProblem } from '@sorvik/formula/expression';

/** How a column is made for each row of a table. */
export interface Making {
  key: string;
  type: FieldType;
  /** Its value as an expression, and what has to be joined for that; `values` takes the parameters. Guarded, it is null where it has no result. */
  sql(values: unknown[], guarded: boolean): { value: string; join?: string };
  /** Where it is looked up, and in which version of the other dataset. */
  lookup?: Lookup & { version: number };
}

export type ReadMaking =
  | { ok: true; making: Making }
  | { ok: false; problem: Pick<FormulaProblem, 'message'> };
