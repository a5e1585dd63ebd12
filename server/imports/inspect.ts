import { tell } from '../tell';
import { type ColumnPlan, planColumns } from './column-plan';
import { parseText } from './csv-rows';
import { columnNames } from './field-keys';
import { type Encoding, headLength, sampleText } from './text-file';

export const maxColumns = 400;
const separators = [',', ';', '\t', '|'];
const sampleRows = 5000;

/** A file that cannot become a dataset, with the reason and the way out. */
export class UnusableFile extends Error {}

export interface Inspection {
  /** The format that it was turned into CSV from. */
  format?: string;
  encoding: Encoding;
  separator: string;
  plans: ColumnPlan[];
  notes: string[];
}

/** The separator that cuts the first rows into the most columns while all rows agree on how many. */
export function separatorOf(head: string): string {
  let best = { separator: ',', score: 0 };
  for (const separator of separators) {
    const rows = parseText(head.slice(0, 200_000), separator, 100).filter(
      (row) => row.length > 1 || row[0] !== '',
    );
    const width = rows[0]?.length ?? 0;
    const agreeing = rows.filter((row) => row.length === width).length / Math.max(1, rows.length);
    const score = width > 1 ? agreeing * agreeing * (1 + Math.log(width)) : 0;
    if (score > best.score) best = { separator, score };
  }
  return best.separator;
}

/**
 * Finds out how a file is written from samples of it, or refuses it with a reason. `size` is how much of it is there; of one
 * that is still `arriving` only the beginning is looked at.
 */
export async function inspectFile(
  path: string,
  size: number,
  encoding: Encoding,
  arriving = false,
): Promise<Inspection> {
  if (size === 0) throw new UnusableFile(tell('inspect.theFileIsEmpty'));
  const { head, spread } = await sampleText(path, arriving ? Math.min(size, headLength) : size, encoding);
  if (head.trim() === '') throw new UnusableFile(tell('inspect.theFileHasOnly'));
  const separator = separatorOf(head);
  // A head that ends inside the file ends inside a row.
  const whole =
    arriving || (size > head.length && spread.length) ? head.slice(0, head.lastIndexOf('\n') + 1) : head;
  const [header, ...rows] = parseText(whole, separator, sampleRows).filter(
    (row) => row.length > 1 || row[0]!.trim() !== '',
  );
  if (!header || !rows.length) throw new UnusableFile(tell('inspect.theFileHasOnly2'));
  if (header.length > maxColumns)
    throw new UnusableFile(tell('inspect.theFileHasColumns', { n: header.length, maxColumns }));
  const { names, notes } = columnNames(header);
  // Samples that begin inside a quoted cell give rows of another width; those are passed over.
  const sampled = [...rows, ...spread.flatMap((text) => parseText(text, separator).slice(0, -1))].filter(
    (row) => row.length === names.length,
  );
  const samples = names.map((_, c) => sampled.map((row) => row[c]!.trim()).filter((cell) => cell !== ''));
  return { encoding, separator, plans: planColumns(names, samples, separator), notes };
}
