/** The q-quantile of measurements, by the nearest rank. */
export function quantile(values: readonly number[], q: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? Number.NaN;
}

export const median = (values: readonly number[]) => quantile(values, 0.5);
export const rounded = (value: number, decimals = 2) => Number(value.toFixed(decimals));

/** The text between the rows of a table for the README. */
export function tableOf(rows: readonly (readonly string[])[]): string {
  const widths = rows[0]!.map((_, c) => Math.max(...rows.map((row) => row[c]!.length)));
  const line = (row: readonly string[]) => `| ${row.map((cell, c) => cell.padEnd(widths[c]!)).join(' | ')} |`;
  const [head, ...rest] = rows;
  return [line(head!), `| ${widths.map((width) => '-'.repeat(width)).join(' | ')} |`, ...rest.map(line)].join(
    '\n',
  );
}
