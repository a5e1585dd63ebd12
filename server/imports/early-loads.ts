import { rm } from 'node:fs/promises';
import { isDeepStrictEqual } from 'node:util';
import type { Database } from '../db/client';
import { type Inspection, inspectFile } from './inspect';
import { type Job, jobOf } from './job';
import type { Loader } from './loader';
import { questionsOf } from './questions';
import type { Arriving, TextWatch } from './text-file';
import { wideQuestion } from './wide';

/** So much of a file has arrived before it begins to be loaded; so many are at a time. */
const earlyFrom = 4 * 1024 * 1024;
const mostEarly = 2;

/** What of an inspection a file is loaded by: not what columns are shown with. */
const loadedBy = ({ plans, ...more }: Inspection) => ({
  ...more,
  plans: plans.map(({ examples: _examples, ...plan }) => plan),
});

/** A load that began while its file was still arriving: it ends when all of it is there and found to be as it began. */
export interface EarlyLoad {
  isFor(job: Job): boolean;
  /** It was right: it becomes that of the job; where it comes to nothing, `otherwise` begins anew. */
  goOn(job: Job, otherwise: () => Promise<void>): void;
  giveUp(): Promise<void>;
}

/** Loads that begin while their files still arrive. */
export class EarlyLoads {
  private running = 0;

  constructor(
    private readonly database: Database,
    private readonly loader: Loader,
  ) {}

  /** Whether a file of which so much is there may begin to be loaded. */
  mayBegin({ bytes, binary }: TextWatch): boolean {
    return bytes > earlyFrom && this.running < mostEarly && !binary;
  }

  /** Begins to load a file of which the beginning is there. */
  begin(id: string, name: string, path: string, watch: TextWatch): EarlyLoad {
    this.running++;
    const arriving: Arriving = { whole: false };
    const abort = new AbortController();
    let job: Job | null = null;
    let agree: (right: boolean) => void = () => {};
    const agreed = new Promise<boolean>((done) => {
      agree = done;
    });
    const run = async (): Promise<boolean> => {
      const { encoding } = watch;
      const inspection = await inspectFile(path, watch.bytes, encoding, true);
      if (questionsOf(inspection.plans).length || wideQuestion(inspection)) return false;
      // It may have been given up before it has begun.
      abort.signal.throwIfAborted();
      job = { ...jobOf(id, name, path, inspection, watch), abort };
      const client = await this.database.pool.connect();
      let done = false;
      try {
        job.dataset = await this.loader.attempt(client, job, { arriving, agreed });
        done = true;
      } finally {
        client.release(!done);
      }
      return done;
    };
    const running = run()
      .catch(() => false)
      .finally(() => {
        this.running--;
      });
    const isSame = (other: Job) =>
      job !== null &&
      other.state === 'loading' &&
      job.unquoted === other.unquoted &&
      isDeepStrictEqual(loadedBy(job.inspection), loadedBy(other.inspection));
    return {
      isFor: isSame,
      goOn: (later, otherwise) => {
        const own = job!;
        // From here on the one is the other: what it has read, and that it may be cancelled.
        later.abort.signal.addEventListener('abort', () => abort.abort(later.abort.signal.reason));
        own.follow = (progress) => Object.assign(later, progress);
        own.bytesTotal = later.bytesTotal;
        const { bytesRead, rows, rejected } = own;
        own.follow({ bytesRead, rows, rejected });
        arriving.whole = true;
        agree(true);
        void running.then(async (done) => {
          if (!done) return later.state === 'loading' ? otherwise() : undefined;
          later.dataset = own.dataset!;
          later.state = 'done';
          await rm(path, { force: true });
        });
      },
      giveUp: async () => {
        abort.abort(new Error('it is otherwise'));
        agree(false);
        arriving.whole = true;
        await running;
      },
    };
  }
}
