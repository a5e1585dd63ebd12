import { randomUUID } from 'node:crypto';
import { and, desc, eq, ne, sql } from 'drizzle-orm';
import type { Database } from '../db/client';
import { Remembered } from '../db/remembered';
import { people, sessions } from '../db/schema';
import { hashOf, newToken } from './tokens';

/** Somebody who is signed in. */
export interface Person {
  id: string;
  email: string;
  name: string;
  owner: boolean;
}

export interface Signed {
  /** Empty where it is a program that acts for its person. */
  session: string;
  person: Person;
  /** How far a program may act. */
  scope?: 'read' | 'push' | 'edit';
}

/** A session ends when it is not used for so long, and at the latest so long after its beginning; days. */
export const idleDays = 7;
export const longestDays = 30;
/** When it was used is written no more often, ms. */
const writtenEvery = 60_000;

const lives = sql`${sessions.usedAt} > now() - make_interval(days => ${idleDays}) AND ${sessions.createdAt} > now() - make_interval(days => ${longestDays})`;

/** Who is signed in where. */
export class Sessions {
  /** What was found of a moment ago; dropped whenever anything changes. */
  private readonly known: Remembered<Signed>;

  constructor(private readonly database: Database) {
    this.known = new Remembered<Signed>(database.changes, ['people', 'sessions'], {
      max: 5000,
      ttl: writtenEvery,
    });
  }

  /** Begins one; what comes back is for the browser alone. */
  async begin(person: string, where: { agent: string; address: string }): Promise<string> {
    const token = newToken();
    await this.database.db.insert(sessions).values({
      id: randomUUID(),
      hash: hashOf(token),
      person,
      agent: where.agent.slice(0, 300),
      address: where.address,
    });
    return token;
  }

  /** Who has a session; null for one that has ended, or of somebody who may not sign in any more. */
  of(token: string): Promise<Signed | null> {
    const hash = hashOf(token);
    return this.known.of(hash, () => this.find(hash));
  }

  private async find(hash: string): Promise<Signed | null> {
    const { db } = this.database;
    const [found] = await db
      .select({
        session: sessions.id,
        id: people.id,
        email: people.email,
        name: people.name,
        owner: people.owner,
        late: sql<boolean>`${sessions.usedAt} < now() - interval '1 minute'`,
      })
      .from(sessions)
      .innerJoin(people, eq(people.id, sessions.person))
      .where(and(eq(sessions.hash, hash), lives, eq(people.off, false)));
    if (!found) return null;
    const { session, late, ...person } = found;
    if (late) await db.update(sessions).set({ usedAt: sql`now()` }).where(eq(sessions.id, session));
    return { session, person };
  }

  list(person: string) {
    const { id, createdAt, usedAt, agent, address } = sessions;
    return this.database.db
      .select({ id, createdAt, usedAt, agent, address })
      .from(sessions)
      .where(and(eq(sessions.person, person), lives))
      .orderBy(desc(sessions.usedAt));
  }

  /** Ends one session of a person; false where there is none such. */
  async end(person: string, session: string): Promise<boolean> {
    const gone = await this.database.db
      .delete(sessions)
      .where(and(eq(sessions.person, person), eq(sessions.id, session)))
      .returning({ id: sessions.id });
    this.known.forget();
    return gone.length > 0;
  }

  /** Ends all sessions of a person but one. */
  async endOthers(person: string, but = ''): Promise<void> {
    await this.database.db.delete(sessions).where(and(eq(sessions.person, person), ne(sessions.id, but)));
    this.known.forget();
  }

  /** Removes what has ended. */
  async sweep(): Promise<void> {
    await this.database.db.delete(sessions).where(sql`NOT (${lives})`);
  }
}
