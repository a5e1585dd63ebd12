import type { Database } from '../db/client';

/** So long changes are gathered before they are looked at, ms. */
const gathered = 100;
/** Where they cannot be looked up, that is tried again after so long, ms. */
const pause = 1000;

/** Which version each dataset is at, looked up once for all who follow them whenever something has changed. */
export class DatasetVersions {
  private known: ReadonlyMap<string, number> = new Map();
  private readonly followers = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly database: Database) {
    database.changes.on(() => this.lookIn(gathered));
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

  /** The versions as they are now. */
  async look(): Promise<ReadonlyMap<string, number>> {
    const { rows } = await this.database.pool.query(
      'SELECT id, version FROM sorvik.datasets WHERE deleted_at IS NULL',
    );
    this.known = new Map(rows.map(({ id, version }) => [String(id), Number(version)]));
    for (const follow of this.followers) follow();
    return this.known;
  }

  /** The version of a dataset as it was last looked up. */
  of(id: string): number | undefined {
    return this.known.get(id);
  }

  /** Calls back when versions have been looked up; gives what ends that. */
  follow(act: () => void): () => void {
    this.followers.add(act);
    return () => this.followers.delete(act);
  }
}
