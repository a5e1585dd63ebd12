/** Where something stands in a formula, in characters from its beginning. */
export interface At {
  from: number;
  to: number;
}

/** A value that a formula works with; dates and date-times are texts as fields have them, null is nothing known. */
export type Value = number | string | boolean | null;

export const valueTypes = ['number', 'text', 'boolean', 'date', 'datetime'] as const;
export type ValueType = (typeof valueTypes)[number];

export const intervalUnits = ['YEAR', 'MONTH', 'DAY', 'HOUR', 'MINUTE', 'SECOND'] as const;
export type IntervalUnit = (typeof intervalUnits)[number];

export interface SortBy {
  by: Expression;
  descending: boolean;
  /** Left out, last whichever way the rest is turned. */
  nullsFirst?: boolean;
}

export interface FrameEnd {
  /** Rows from the current one on, negative before it; infinite for all there are. */
  offset: number;
}

export interface Over {
  partition: Expression[];
  order: SortBy[];
  frame?: { start: FrameEnd; end: FrameEnd };
}

/** A formula as a tree; every part knows where it stands. */
export type Expression =
  | (At & { kind: 'value'; type: ValueType | 'null'; value: Value })
  | (At & { kind: 'interval'; count: number; unit: IntervalUnit })
  | (At & { kind: 'name'; name: string; quoted: boolean })
  | (At & { kind: 'lever'; name: string; part?: string })
  | (At & { kind: 'unary'; op: '-' | '+' | 'NOT'; of: Expression })
  | (At & { kind: 'binary'; op: BinaryOp; left: Expression; right: Expression })
  | (At & { kind: 'isNull'; of: Expression; negated: boolean })
  | (At & { kind: 'between'; of: Expression; low: Expression; high: Expression; negated: boolean })
  | (At & { kind: 'in'; of: Expression; list: Expression[]; negated: boolean; bare?: true })
  | (At & { kind: 'anyOf'; of: Expression; lever: Expression })
  | (At & { kind: 'case'; of?: Expression; when: { is: Expression; then: Expression }[]; else?: Expression })
  | (At & { kind: 'cast'; of: Expression; as: ValueType; whole?: true })
  | (At & {
      kind: 'call';
      name: string;
      args: Expression[];
      star?: true;
      distinct?: true;
      /** `WITHIN GROUP (ORDER BY ..)`. */
      within?: SortBy;
      filter?: Expression;
      over?: Over;
    });

export const comparisonOps = ['=', '<>', '<', '<=', '>', '>='] as const;
export type BinaryOp =
  | '+'
  | '-'
  | '*'
  | '/'
  | '||'
  | 'AND'
  | 'OR'
  | 'LIKE'
  | 'NOT LIKE'
  | 'IS DISTINCT FROM'
  | 'IS NOT DISTINCT FROM'
  | (typeof comparisonOps)[number];

/** What is wrong with a formula, and where. */
export interface FormulaProblem extends At {
  message: string;
}
