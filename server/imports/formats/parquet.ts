import { listQuestions, literal, storeToCsv } from './column-store';
import type { TableFormat } from './format-kind';

const name = 'Parquet';
const from = (path: string) => `read_parquet(${literal(path)})`;

/** Apache Parquet, as the column store reads it. */
export const parquet: TableFormat = {
  name,
  is: (head) => head.subarray(0, 4).toString('latin1') === 'PAR1',
  asks: ({ path }) => listQuestions(path, from(path), name),
  read: ({ path }, out, answers) =>
    storeToCsv(path, from(path), out, { format: name, texts: 'text' }, answers),
};
