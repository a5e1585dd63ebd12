import { sql } from 'drizzle-orm';
import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';
import type { Database } from '../db/client';
import { HttpProblem } from '../http/problem';
import { tell } from '../tell';
import type { Counted } from './needs';

export interface LimitOptions {
  /** So many questions a minute. */
  questions: number;
  /** So many files an hour. */
  uploads: number;
  /** So many bytes may the datasets have that somebody owns; null for as many as there is room for. */
  storage: number | null;
}

/** Far more than a person at a board asks, and less than keeps a server from others. */
export const usualLimits: LimitOptions = { questions: 6000, uploads: 120, storage: null };

const minute = 60;
const hour = 3600;

/** How much each person, or each place from where somebody came by a link, may ask of a server. */
export class Limits {
  private readonly counts: Record<Counted, RateLimiterMemory>;

  constructor(
    private readonly database: Database,
    private readonly options: LimitOptions,
  ) {
    this.counts = {
      question: new RateLimiterMemory({ points: options.questions, duration: minute }),
      upload: new RateLimiterMemory({ points: options.uploads, duration: hour }),
    };
  }

  /** Counts one more. Throws 429 where that is too many, and 413 where somebody has no room left. */
  async count(who: string, what: Counted): Promise<void> {
    await this.counts[what].consume(who).catch((late: RateLimiterRes) => {
      const seconds = Math.ceil(late.msBeforeNext / 1000);
      throw new HttpProblem(
        429,
        'too-much-asked',
        tell('access.tooMuch', {
          what,
          most: what === 'question' ? this.options.questions : this.options.uploads,
          n: seconds,
        }),
        {},
        { 'retry-after': String(seconds) },
      );
    });
    if (what === 'upload') await this.needRoom(who);
  }

  private async needRoom(person: string): Promise<void> {
    const { storage } = this.options;
    if (storage === null) return;
    const { rows } = await this.database.db.execute<{ bytes: string }>(
      sql`SELECT coalesce(sum(coalesce(pg_total_relation_size(to_regclass('data.d_' || d.number)), 0)), 0) AS bytes
          FROM sorvik.datasets d JOIN sorvik.rights r ON r.kind = 'dataset' AND r.thing = d.id AND r.role = 'own'
          WHERE r.grantee = ${person}`,
    );
    const used = Number(rows[0]?.bytes ?? 0);
    if (used < storage) return;
    const megabytes = (bytes: number) => Math.round(bytes / 1e6);
    throw new HttpProblem(
      413,
      'no-room-left',
      tell('access.noRoom', { used: megabytes(used), most: megabytes(storage) }),
    );
  }
}
