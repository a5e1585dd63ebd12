import { LRUCache } from 'lru-cache';
import type { Database } from '../db/client';

/** Whoever is not heard of for so long has gone, ms: the server that they came to was killed. */
const untilGone = 50_000;
/** So often it is said again who is there, ms. */
const saidAgain = 20_000;

/** So many are remembered at most; beyond that the one that was heard of longest ago is not. */
const most = 5000;

/** Somebody at work on a board, in one tab of a browser. */
export interface Author {
  board: string;
  tab: string;
  person: string;
  name: string;
  /** The chart that they work at; null while it is none. */
  chart: string | null;
}

/**
 * Who works at which board now, by whichever server they came. Servers tell each other through the database, which keeps nothing
 * of it; one that has just begun knows of all once the others have said again who is there.
 */
export class Authors {
  private readonly followers = new Set<() => void>();
  private readonly known = new LRUCache<string, Author>({
    max: most,
    ttl: untilGone,
    ttlAutopurge: true,
    dispose: () => this.wake(),
  });

  constructor(private readonly database: Database) {
    database.changes.onMessage((text) => {
      const { is, author } = JSON.parse(text) as { is: 'here' | 'gone'; author: Author };
      const name = `${author.board}\n${author.tab}`;
      if (is === 'gone') this.known.delete(name);
      else this.known.set(name, author);
      this.wake();
    });
  }

  private wake(): void {
    for (const follow of this.followers) follow();
  }

  private async say(is: 'here' | 'gone', author: Author): Promise<void> {
    await this.database.changes.say(JSON.stringify({ is, author }));
  }

  /** Somebody comes; gives what ends that. All servers are told. */
  enter(who: Omit<Author, 'chart'>): () => void {
    const name = `${who.board}\n${who.tab}`;
    // Unsaid while the database is away, it is said again before long.
    const say = () =>
      void this.say('here', { ...who, chart: this.known.get(name)?.chart ?? null }).catch(() => {});
    say();
    const again = setInterval(say, saidAgain);
    again.unref();
    return () => {
      clearInterval(again);
      void this.say('gone', { ...who, chart: null }).catch(() => {});
    };
  }

  /** Somebody who is there turns to a chart, or away from all. */
  turn(author: Author): Promise<void> {
    return this.say('here', author);
  }

  /** Who else is at a board than one person, each once with the chart where they were heard of last, by name. */
  others(board: string, person: string): Pick<Author, 'name' | 'chart'>[] {
    const found = new Map<string, Author>();
    for (const author of this.known.values())
      if (author.board === board && author.person !== person && !found.has(author.person))
        found.set(author.person, author);
    return [...found.values()]
      .map(({ name, chart }) => ({ name, chart }))
      .sort((a, b) => a.name.localeCompare(b.name));
  }

  /** Calls back when somebody comes, goes, or turns to another chart; gives what ends that. */
  follow(act: () => void): () => void {
    this.followers.add(act);
    return () => this.followers.delete(act);
  }
}
