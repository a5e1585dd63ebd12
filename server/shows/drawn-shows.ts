import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import type { Answered, Asked, DrawnShow, DrawOrder } from '@sorvik/core/board/drawn-show';
import { LRUCache } from 'lru-cache';
import { Piscina } from 'piscina';
import type { Ask } from '../access/ask-as';

/** A show that was drawn, and what its page had asked for: it is right as long as that is answered the same. */
interface Kept {
  /** Null: it could not be drawn, and is not tried again. */
  drawn: DrawnShow | null;
  answers: readonly { asked: Asked; print: string }[];
}

/** Shows that wait for the thread; one more is not drawn. */
const mostWaiting = 20;
/** A drawing takes so long at most, with its waiting, ms. */
const longest = 20_000;
/** The thread ends when it has had nothing to do for so long, ms. */
const idle = 10 * 60_000;
/** Shows that were drawn are kept, up to so many letters. */
const keptLetters = 64 * 1024 * 1024;
/** A page of more letters is slower to read than to draw. */
const mostLetters = 1_500_000;
/** What went wrong is tried again after so long, ms. */
const untilTriedAgain = 10 * 60_000;

const printOf = (status: number, body: Uint8Array): string =>
  createHash('sha256').update(`${status}:`).update(body).digest('base64url');

/** Asks as a page does. */
async function answered(ask: Ask, { path, method, body }: Asked): Promise<Omit<Answered, 'number'>> {
  const response = await ask(
    path,
    body === null ? { method } : { method, body, headers: { 'content-type': 'application/json' } },
  );
  return {
    status: response.status,
    type: response.headers.get('content-type') ?? '',
    body: new Uint8Array(await response.arrayBuffer()),
  };
}

/**
 * Draws shows on the server, in a thread in which the program of their pages runs, so that a page arrives with its charts.
 * What was drawn is kept for whoever is answered the same.
 */
export class DrawnShows {
  private pool: Piscina<DrawOrder & { port: unknown }, DrawnShow | null> | null = null;
  private readonly kept = new LRUCache<string, Kept>({
    maxSize: keptLetters,
    sizeCalculation: ({ drawn }) => 1 + (drawn ? drawn.html.length + drawn.values.length : 0),
  });
  /** The thread has drawn before: it needs no time to begin. */
  private isWarm = false;
  /** What is being drawn, for whom. */
  private readonly drawing = new Set<string>();

  constructor(
    /** The bundle of `web/drawn/thread.ts`: beside that of the server, or where tests have it made. */
    private readonly file = process.env.SORVIK_SHOW_THREAD ??
      fileURLToPath(new URL('./show-thread.js', import.meta.url)),
  ) {}

  /**
   * A show for whoever asks, as `ask` answers them: at once where it was drawn before, else within `patience` ms. Null where
   * it takes longer, or cannot be drawn; what takes longer is there the next time. `who` tells apart those who are answered
   * differently; what a show says of today is so on a `day`.
   */
  async of(
    order: DrawOrder,
    { ask, who, day, patience }: { ask: Ask; who: string; day: string; patience: number },
  ): Promise<DrawnShow | null> {
    const name = JSON.stringify([who, day, order]);
    const known = this.kept.get(name);
    if (known && (await this.isRight(known, ask))) return known.drawn;
    const drawn = this.draw(name, order, ask).catch(() => {
      this.kept.set(name, { drawn: null, answers: [] }, { ttl: untilTriedAgain });
      return null;
    });
    const late = new Promise<null>((late) => setTimeout(late, this.isWarm ? patience : 0, null).unref());
    return Promise.race([drawn, late]);
  }

  async close(): Promise<void> {
    await this.pool?.destroy();
    this.pool = null;
  }

  private async isRight({ answers }: Kept, ask: Ask): Promise<boolean> {
    const same = await Promise.all(
      answers.map(async ({ asked, print }) => {
        const { status, body } = await answered(ask, asked);
        return printOf(status, body) === print;
      }),
    );
    return same.every(Boolean);
  }

  private async draw(name: string, order: DrawOrder, ask: Ask): Promise<DrawnShow | null> {
    this.pool ??= new Piscina({
      filename: this.file,
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: idle,
      maxQueue: mostWaiting,
      env: { ...process.env, NODE_ENV: 'production' },
    });
    if (this.pool.queueSize >= mostWaiting || this.drawing.has(name)) return null;
    this.drawing.add(name);
    const { port1, port2 } = new MessageChannel();
    const answers: Kept['answers'][number][] = [];
    let isAnswered = true;
    port1.on('message', async (asked: Asked) => {
      const { number } = asked;
      try {
        const answer = await answered(ask, asked);
        if (answer.status >= 500) isAnswered = false;
        answers.push({ asked, print: printOf(answer.status, answer.body) });
        port1.postMessage({ number, ...answer });
      } catch {
        isAnswered = false;
        port1.postMessage({ number, status: 503, type: '', body: new Uint8Array() } satisfies Answered);
      }
    });
    try {
      const drawn = await this.pool.run(
        { ...order, port: port2 },
        { transferList: [port2], signal: AbortSignal.timeout(longest) },
      );
      this.isWarm = true;
      const isLong = drawn !== null && drawn.html.length + drawn.values.length > mostLetters;
      const taken = isLong ? null : drawn;
      // What the server could not answer now is no reason for not drawing it later.
      if (isAnswered) this.kept.set(name, { drawn: taken, answers }, taken ? {} : { ttl: untilTriedAgain });
      return isAnswered ? taken : null;
    } finally {
      port1.close();
      this.drawing.delete(name);
    }
  }
}
