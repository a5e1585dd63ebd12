import pg from 'pg';

/** So long after it was lost the connection is tried again, ms. */
const pause = 1000;

/**
 * Hears of every change to what is kept, whichever server made it: triggers notify of it when it is committed. Nothing
 * that is remembered may be used while it hears nothing.
 */
export class Changes {
  private readonly messages = new Set<(text: string) => void>();
  private readonly heard = new Set<{ hear: () => void; tables: readonly string[] | null }>();
  private client: pg.Client | null = null;
  private closed = false;
  private again: ReturnType<typeof setTimeout> | undefined;
  /** Whether it hears of changes now. */
  listening = false;

  private constructor(
    private readonly url: string,
    private readonly onError: (error: Error) => void,
  ) {}

  static async open(url: string, onError: (error: Error) => void): Promise<Changes> {
    const changes = new Changes(url, onError);
    await changes.connect();
    return changes;
  }

  /** Calls back whenever something has changed, or may have: anything, or something in some tables. */
  on(hear: () => void, tables: readonly string[] | null = null): void {
    this.heard.add({ hear, tables });
  }

  /** Says that something has changed, in a table where that is known: whoever did it here need not wait until the database tells. */
  tell(table?: string): void {
    for (const { hear, tables } of this.heard)
      if (table === undefined || tables === null || tables.includes(table)) hear();
  }

  /** Calls back with what servers say to each other. */
  onMessage(hear: (text: string) => void): void {
    this.messages.add(hear);
  }

  /** Says something to all servers, this one too: up to 7,900 bytes, of which nothing is kept. Unsaid while nothing is heard either. */
  async say(text: string): Promise<void> {
    if (this.listening) await this.client?.query('SELECT pg_notify($1, $2)', ['sorvik_said', text]);
  }

  private async connect(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.url,
      keepAlive: true,
      // What hears of changes is seen among the connections of a database.
      application_name: 'sorvik-changes',
    });
    this.client = client;
    client.on('notification', ({ channel, payload }) => {
      if (channel === 'sorvik_changed') this.tell(payload || undefined);
      else for (const hear of this.messages) hear(payload!);
    });
    client.on('error', this.onError);
    client.on('end', () => {
      // One that was given up may end after another one has begun to listen.
      if (this.client === client) this.lost();
    });
    try {
      await client.connect();
      await client.query('LISTEN sorvik_changed; LISTEN sorvik_said');
      this.listening = !this.closed;
      this.tell();
    } catch (error) {
      this.onError(error as Error);
      client.end().catch(() => {});
      this.lost();
    }
  }

  private lost(): void {
    this.listening = false;
    this.tell();
    if (this.closed || this.again) return;
    this.again = setTimeout(() => {
      this.again = undefined;
      void this.connect();
    }, pause);
    this.again.unref();
  }

  async close(): Promise<void> {
    this.closed = true;
    this.listening = false;
    clearTimeout(this.again);
    await this.client?.end().catch(() => {});
  }
}
