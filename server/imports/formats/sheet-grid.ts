/** What a cell of a spreadsheet holds: a number, a text, a truth, a day or a moment as text. */
export type Cell = { is: 'number' | 'text' | 'truth' | 'day' | 'moment'; text: string } | null;

/** Rows of cells, without rows that are empty; `at` is where each was, from 1. */
export interface Grid {
  rows: Cell[][];
  at: number[];
  width: number;
}

/** So many of the first rows may be the heading. */
const mostAbove = 12;

const filled = (row: readonly Cell[]) => row.filter((cell) => cell !== null).length;

/**
 * The row that most likely names the columns: the first that fills about as many cells as the rows below it do, all of them
 * texts, or texts and years.
 */
export function headingRow({ rows, width }: Grid): number {
  const usual = Math.max(...rows.slice(0, 50).map(filled), 1);
  const found = rows
    .slice(0, mostAbove)
    .findIndex(
      (row) =>
        filled(row) >= Math.max(1, Math.min(width, usual) * 0.6) &&
        row.every((cell) => cell === null || cell.is === 'text' || cell.is === 'day' || isYear(cell)),
    );
  return Math.max(0, found);
}

const isYear = (cell: Cell) => cell?.is === 'number' && /^(19|20|21)\d\d$/.test(cell.text);

/**
 * The names of columns: those of the heading row, behind those that stand over several of them in the row above.
 * `spans` are the merged cells of that row, as first and last column.
 */
export function headingNames(
  { rows }: Grid,
  heading: number,
  spans: readonly { from: number; to: number }[],
): string[] {
  const own = rows[heading] ?? [];
  const above = heading > 0 ? rows[heading - 1]! : [];
  return own.map((cell, c) => {
    const span = spans.find(({ from, to }) => c >= from && c <= to);
    const over = span && own.length ? above[span.from]?.text : undefined;
    return [over, cell?.text].filter(Boolean).join(' ');
  });
}

const totalWord = /^(grand\s+)?(total|totals|sum|overall|gesamt|summe|insgesamt)\b/i;
const near = (a: number, b: number) => Math.abs(a - b) <= 1e-6 * Math.max(1, Math.abs(a), Math.abs(b));

/**
 * Rows that add up others: they say so in their first text, and every number in them is the sum of those above it since the
 * last such row or the heading.
 */
export function totalsRows({ rows }: Grid, heading: number): number[] {
  const found: number[] = [];
  let since = heading + 1;
  for (let r = heading + 2; r < rows.length; r++) {
    const row = rows[r]!;
    const first = row.find((cell) => cell?.is === 'text');
    if (!first || !totalWord.test(first.text.trim())) continue;
    const sums = (from: number) =>
      row.every((cell, c) => {
        if (cell?.is !== 'number') return true;
        let sum = 0;
        for (let i = from; i < r; i++)
          if (!found.includes(i)) sum += Number(rows[i]![c]?.is === 'number' ? rows[i]![c]!.text : 0);
        return near(sum, Number(cell.text));
      });
    if (!row.some((cell) => cell?.is === 'number') || !(sums(since) || sums(heading + 1))) continue;
    found.push(r);
    since = r + 1;
  }
  return found;
}
