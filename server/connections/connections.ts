import { randomUUID, X509Certificate } from 'node:crypto';
import type { ConnectionView } from '@sorvik/core/board/api-types';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { and, asc, eq, isNotNull, isNull } from 'drizzle-orm';
import { atOnce, type Database } from '../db/client';
import { connections, datasets } from '../db/schema';
import { HttpProblem, invalid, notFound } from '../http/problem';
import type { Place } from '../sources/in-place/in-place-source';
import { sourceProblem } from '../sources/in-place/problems';
import { type Reached, Server } from '../sources/in-place/servers';
import { tell } from '../tell';
import { type Secrets, Unreadable } from './secrets';

type Stored = typeof connections.$inferSelect;

/** What is said of a connection; a password that is left out stays what it is. */
export type ConnectionInput = Omit<ConnectionView, 'id' | 'datasets'> & { password?: string };

/** Refuses a certificate that is none. */
function checkAuthority({ tls, authority }: ConnectionInput): void {
  if (tls !== 'own') return;
  const wrong = (message: string) => invalid([{ pointer: '/authority', message }]);
  if (!authority?.trim()) throw wrong(tell('connections.authorityNeeded'));
  try {
    new X509Certificate(authority);
  } catch {
    throw wrong(tell('connections.authorityUnfit'));
  }
}

/** Other databases: how they are reached is kept here, and who reaches them asks here. */
export class Connections {
  private readonly open = new Map<string, { stamp: string; server: Server }>();

  constructor(
    private readonly database: Database,
    private readonly secrets: Secrets,
  ) {}

  private async find(id: string): Promise<Stored> {
    const [found] = await this.database.db.select().from(connections).where(eq(connections.id, id));
    if (!found) throw notFound('connection', id);
    return found;
  }

  private async view({ password, createdAt, ...shown }: Stored): Promise<ConnectionView> {
    const { db } = this.database;
    const used = await db
      .select({ id: datasets.id, name: datasets.name })
      .from(datasets)
      .where(and(eq(datasets.connection, shown.id), isNull(datasets.deletedAt)))
      .orderBy(asc(datasets.name));
    return { ...shown, datasets: used };
  }

  async list(): Promise<ConnectionView[]> {
    const all = await this.database.db.select().from(connections).orderBy(asc(connections.createdAt));
    return Promise.all(all.map((each) => this.view(each)));
  }

  /** Connects once, so that nothing is kept that does not work. */
  private async tryOut(name: string, reached: Reached): Promise<void> {
    const server = new Server({ ...reached, most: 1 });
    try {
      await server.read((client) => client.query('SELECT 1'));
    } catch (error) {
      throw sourceProblem(error, { name, ...reached });
    } finally {
      await server.close();
    }
  }

  async create({ password = '', ...input }: ConnectionInput): Promise<ConnectionView> {
    checkAuthority(input);
    await this.tryOut(input.name, { ...input, password });
    const id = randomUUID();
    const sealed = await this.secrets.seal(password, id);
    const [made] = await this.database.db
      .insert(connections)
      .values({ ...input, id, password: sealed })
      .returning();
    return this.view(made!);
  }

  async change(id: string, { password, ...input }: ConnectionInput): Promise<ConnectionView> {
    checkAuthority(input);
    const known = await this.find(id);
    const { host, port, user } = input;
    // A password goes to no other server than the one that it was given for.
    if (password === undefined && (host !== known.host || port !== known.port || user !== known.user))
      throw invalid([{ pointer: '/password', message: tell('connections.passwordAgain') }]);
    const used = password ?? (await this.passwordOf(known));
    await this.tryOut(input.name, { ...input, password: used });
    const [changed] = await this.database.db
      .update(connections)
      .set({ ...input, password: await this.secrets.seal(used, id) })
      .where(eq(connections.id, id))
      .returning();
    if (!changed) throw notFound('connection', id);
    return this.view(changed);
  }

  /** Forgets a connection of which nothing is used; deleted datasets that came from it go for good. */
  async remove(id: string): Promise<void> {
    const known = await this.find(id);
    const { datasets: used } = await this.view(known);
    if (used.length)
      throw new HttpProblem(
        409,
        'connection-in-use',
        tell('connections.inUse', {
          name: known.name,
          n: used.length,
          datasets: listed(
            used.map(({ name }) => name),
            english,
          ),
        }),
      );
    await atOnce(this.database.db, async (tx) => {
      await tx.delete(datasets).where(and(eq(datasets.connection, id), isNotNull(datasets.deletedAt)));
      await tx.delete(connections).where(eq(connections.id, id));
    });
    await this.open.get(id)?.server.close();
    this.open.delete(id);
  }

  private passwordOf({ id, name, password }: Stored): Promise<string> {
    return this.secrets.open(password, id).catch((error) => {
      if (!(error instanceof Unreadable)) throw error;
      throw new HttpProblem(502, 'source-refused', tell('connections.secretLost', { name }));
    });
  }

  /** A server as it is to be reached now. */
  async place(id: string): Promise<Place> {
    const stored = await this.find(id);
    const stamp = JSON.stringify(stored);
    let held = this.open.get(id);
    if (held?.stamp !== stamp) {
      const password = await this.passwordOf(stored);
      const before = this.open.get(id);
      // Somebody else may have been quicker.
      if (before?.stamp !== stamp) {
        before?.server.close().catch(() => {});
        this.open.set(id, { stamp, server: new Server({ ...stored, password }) });
      }
      held = this.open.get(id)!;
    }
    const { name, host, port, seconds, most } = stored;
    return { server: held.server, name, host, port, seconds, most };
  }

  async close(): Promise<void> {
    await Promise.all([...this.open.values()].map(({ server }) => server.close()));
    this.open.clear();
  }
}
