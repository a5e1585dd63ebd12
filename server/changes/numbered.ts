import type { Database } from '../db/client';

/** Changes that follow each other sooner than this, ms, are looked at together. */
const gathered = 100;
/** Where they cannot be looked up, that is tried again after so long, ms. */
const pause = 1000;

const statements = {
  datasets: 'SELECT id, version AS number FROM sorvik.datasets WHERE deleted_at IS NULL',
  boards: 'SELECT id, revision AS number FROM sorvik.boards WHERE deleted_at IS NULL',
};

/**
 * Which version each dataset is at, or which revision each board: looked up once for all who follow them whenever something
 * has changed.
 */
export class Numbered {
  private known: ReadonlyMap<string, number> = new Map();
  private readonly followers = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private lookedAt = Number.NEGATIVE_INFINITY;

  constructor(
    private readonly database: Database,
    private readonly what: keyof typeof statements,
  ) {
    database.changes.on(() => this.lookIn(Math.max(0, this.lookedAt + gathered - performance.now())));
  }

  /** Looks after a while; again where that fails: what has changed may be told of only once. */
  private lookIn(ms: number): void {
    // Nobody follows: the next who does will look.
    if (!this.followers.size || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = undefined;
      this.look().catch(() => this.lookIn(pause));
    }, ms);
    this.timer.unref();
  }

  /** Looks at the numbers as they are now. */
  async look(): Promise<void> {
    this.lookedAt = performance.now();
    const { rows } = await this.database.pool.query(statements[this.what]);
    this.known = new Map(rows.map(({ id, number }) => [String(id), Number(number)]));
    for (const follow of this.followers) follow();
  }

  /** The number of one as it was last looked up; undefined where there is none such. */
  of(id: string): number | undefined {
    return this.known.get(id);
  }

  /** Calls back when they have been looked up; gives what ends that. */
  follow(act: () => void): () => void {
    this.followers.add(act);
    return () => this.followers.delete(act);
  }
}
