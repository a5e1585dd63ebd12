import { common } from './common-type';
import { compareValues } from './compare';
import type { Compiled, Compiling, Rows, SqlPrinter } from './compiled';
import type { Expression, Value } from './expression';
import { allWhole, inOrder, must, placed, typedNull } from './fitting';

/** What the branches of a CASE are chosen by. */
interface Branches {
  /** For some rows: which branch each takes, the first that holds; -1 for none. */
  choose(rows: Rows): (index: number) => number;
  /** What stands before the branches in SQL. */
  head(printer: SqlPrinter): string;
  when: readonly Compiled[];
}

type Case = Extract<Expression, { kind: 'case' }>;

/** CASE WHEN condition THEN .. */
function searched({ when }: Case, within: Compiling): Branches {
  const tests = when.map(({ is }) => must(within.of(is), 'boolean', is, { place: 'after', of: 'WHEN' }));
  return {
    choose(rows) {
      const holds = tests.map((test) => test.run(rows));
      return (i) => holds.findIndex((test) => test(i) === true);
    },
    head: () => 'CASE',
    when: tests,
  };
}

/** CASE value WHEN other THEN ..: the value is computed once, however many others it is held against. */
function switched({ when }: Case, value: Expression, within: Compiling): Branches {
  const { type, parts } = common(
    [value, ...when.map(({ is }) => is)].map((part) => placed(part, within.of)),
    { place: 'compares', of: 'CASE' },
  );
  const [of, ...others] = parts as [Compiled, ...Compiled[]];
  return {
    choose(rows) {
      const read = of.run(rows);
      const reads = others.map((other) => other.run(rows));
      return (i) => {
        const held = read(i);
        if (held === null) return -1;
        return reads.findIndex((other) => {
          const found = other(i);
          return found !== null && compareValues(held, found) === 0;
        });
      };
    },
    head: (printer) => `CASE ${inOrder(type, `(${of.sql(printer)})`)}`,
    when: others,
  };
}

/** CASE .. END: what the first branch that holds gives; null where none does and there is no ELSE. */
export function caseOf(expression: Case, within: Compiling): Compiled {
  const branches = expression.of ? switched(expression, expression.of, within) : searched(expression, within);
  const results = [...expression.when.map(({ then }) => then), ...(expression.else ? [expression.else] : [])];
  const { type, parts } = common(
    results.map((part) => placed(part, within.of)),
    { place: 'gives', of: 'CASE' },
  );
  const other = expression.else ? parts.at(-1)! : typedNull(type);
  return {
    type,
    whole: allWhole(parts),
    run(rows) {
      const chosen = branches.choose(rows);
      const then = parts.map((part) => part.run(rows));
      const rest = other.run(rows);
      return (i): Value => {
        const found = chosen(i);
        return found < 0 ? rest(i) : then[found]!(i);
      };
    },
    sql: (printer) => {
      const when = branches.when.map(
        (test, k) => `WHEN (${test.sql(printer)}) THEN (${parts[k]!.sql(printer)})`,
      );
      return `${branches.head(printer)} ${when.join(' ')} ELSE (${other.sql(printer)}) END`;
    },
  };
}
