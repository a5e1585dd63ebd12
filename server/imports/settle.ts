import { rename } from 'node:fs/promises';
import { inspectFile } from './inspect';
import { type Job, watched } from './job';
import { questionsOf } from './questions';
import { lengthen, wideQuestion } from './wide';

/** Finds out how the columns of a job are read, and what has to be asked about them. Throws where they cannot be. */
export async function settle(job: Job, wide?: string): Promise<void> {
  const question = wide === undefined ? wideQuestion(job.inspection) : null;
  if (question && !job.landing) {
    Object.assign(job, { state: 'asking', questions: [question] });
    return;
  }
  if (wide === 'long' || (question && job.landing?.long)) {
    const out = `${job.path}.long`;
    await lengthen(job, out, job.abort.signal);
    await rename(out, job.path);
    const watch = await watched(job.path);
    const { notes, format } = job.inspection;
    const again = await inspectFile(job.path, watch.bytes, 'utf-8');
    job.inspection = { ...again, notes: [...notes, ...again.notes], ...(format ? { format } : {}) };
    job.unquoted = !watch.quoted;
    job.bytesTotal = watch.bytes;
  }
  if (job.landing) job.inspection = job.landing.plan(job.inspection);
  job.questions = questionsOf(job.inspection.plans);
  job.state = job.questions.length ? 'asking' : 'loading';
}
