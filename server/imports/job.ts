import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import type { ImportView, Reject } from '@sorvik/core/board/api-types';
import { asking } from '../access/asking';
import { failureProblem } from '../http/problem';
import { tell } from '../tell';
import { UnclosedQuote } from './csv-rows';
import type { SourceFile as FilePart } from './formats/format-kind';
import { type Inspection, UnusableFile } from './inspect';
import type { Landing, StagedRows } from './landing';
import { TextWatch } from './text-file';

/** A file on its way in, and what is known of it. */
export interface Job extends ImportView {
  /** Who has sent it, where people sign in. */
  by: string | undefined;
  path: string;
  inspection: Inspection;
  /** No quotation mark is in the file. */
  unquoted: boolean;
  abort: AbortController;
  touched: number;
  /** It is several files that become one. */
  parts?: readonly FilePart[];
  /** It is of a format that is turned into CSV first, and still has to be. */
  unread?: boolean;
  /** Rows that could not even be read as such. */
  setAside: Reject[];
  /** What it is for, where it is not to be a dataset of its own. */
  landing?: Landing;
  staged?: StagedRows | undefined;
  /** Hears how far it is. */
  follow?: (progress: Pick<ImportView, 'bytesRead' | 'rows' | 'rejected'>) => void;
}

export function jobOf(
  id: string,
  file: string,
  path: string,
  inspection: Inspection,
  { bytes, quoted }: Pick<TextWatch, 'bytes' | 'quoted'>,
  questions: ImportView['questions'] = [],
): Job {
  return {
    id,
    by: asking.getStore()?.person?.id,
    file,
    path,
    inspection,
    unquoted: !quoted,
    setAside: [],
    abort: new AbortController(),
    touched: Date.now(),
    state: questions.length ? 'asking' : 'loading',
    questions,
    bytesRead: 0,
    bytesTotal: bytes,
    rows: 0,
    rejected: 0,
  };
}

/** What is to be known of a text that is already there. */
export async function watched(path: string): Promise<TextWatch> {
  const watch = new TextWatch();
  for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) watch.see(chunk);
  return watch;
}

/** Removes the parts that a file was sent in. */
export async function removeParts({ parts = [] }: Job): Promise<void> {
  for (const { path } of parts) await rm(path, { force: true });
}

/** Notes why a job came to nothing, unless it was cancelled. Says whether that was foreseen. */
export function noteFailure(job: Job, error: unknown): boolean {
  if (job.state === 'cancelled') return true;
  const known = error instanceof UnusableFile || error instanceof UnclosedQuote;
  job.state = 'failed';
  job.message = known ? error.message : (failureProblem(error)?.detail ?? tell('jobs.theRowsCouldNot'));
  return known && !error.cause;
}
