import type { ImportQuestion } from '@sorvik/core/board/api-types';
import type { FieldType } from '@sorvik/core/data/values';

/** A file as it was sent. */
export interface SourceFile {
  path: string;
  /** As its sender calls it. */
  name: string;
  bytes: number;
}

/**
 * A column of what was read. `is` says what its format knows of it: a type; that its cells are texts, be it of days; null
 * where they are to be looked at, as those of a CSV file are.
 */
export interface ReadColumn {
  name: string;
  is: FieldType | 'text-or-date' | null;
}

/** A row that could not be read, as a reject of the import. */
export interface UnreadRow {
  line: number;
  reason: string;
  text: string;
}

/** What came of reading a file: a CSV text with a head, and what is known of its columns. */
export interface ReadTable {
  columns: ReadColumn[];
  notes: string[];
  unread: UnreadRow[];
}

/** What was answered, by what was asked about. */
export type Answers = Readonly<Record<string, string>>;

/** A format that is read by turning it into CSV. */
export interface TableFormat {
  /** As people call it. */
  name: string;
  /** Whether a file is of it, by its first bytes and by what is in it. */
  is(head: Buffer, file: SourceFile): boolean | Promise<boolean>;
  /** What has to be said before it can be read. */
  asks(file: SourceFile): Promise<ImportQuestion[]>;
  /** Writes its rows to `out` as CSV. Throws `UnreadableFile` with a sentence where it cannot be read. */
  read(file: SourceFile, out: string, answers: Answers): Promise<ReadTable>;
}

/** A format that holds other files: it is unpacked, and what comes of it is looked at anew. */
export interface PackFormat {
  name: string;
  is(head: Buffer, file: SourceFile): boolean | Promise<boolean>;
  /** Unpacks to a folder; gives the files. Throws `UnreadableFile` where it cannot. */
  unpack(file: SourceFile, folder: string): Promise<SourceFile[]>;
}

/** A file that cannot be read, with the reason and the way out. */
export class UnreadableFile extends Error {}
