import { randomUUID } from 'node:crypto';
import { and, desc, eq, gt, lt, sql } from 'drizzle-orm';
import type { Database } from '../db/client';
import { Remembered } from '../db/remembered';
import { people, personTokens } from '../db/schema';
import type { Person } from './sessions';
import { hashOf, newToken } from './tokens';

/**
 * What a token lets a program do of what its person may: read, push rows, or change boards and datasets as well. People, rights, links,
 * passwords and tokens are for the person alone.
 */
export const scopes = ['read', 'push', 'edit'] as const;
export type Scope = (typeof scopes)[number];

const prefix = 'svp_';
/** When one was used is written no more often, ms; what was found of it holds for so long. */
const knownFor = 60_000;

const columns = {
  id: personTokens.id,
  name: personTokens.name,
  scope: personTokens.scope,
  createdAt: personTokens.createdAt,
  usedAt: personTokens.usedAt,
  endsAt: personTokens.endsAt,
};

/** Tokens by which programs act for people. */
export class PersonTokens {
  private readonly known: Remembered<{ person: Person; scope: Scope }>;

  constructor(private readonly database: Database) {
    this.known = new Remembered(database.changes, ['people', 'person_tokens'], { max: 5000, ttl: knownFor });
  }

  /** The token of a header, where it is one of these. */
  static given(authorization: string | undefined): string | null {
    const [, token] = /^Bearer\s+(\S+)$/i.exec(authorization ?? '') ?? [];
    return token?.startsWith(prefix) ? token : null;
  }

  list(person: string) {
    return this.database.db
      .select(columns)
      .from(personTokens)
      .where(eq(personTokens.person, person))
      .orderBy(desc(personTokens.createdAt));
  }

  /** Makes one that ends after so many days; it is told once. */
  async make(person: string, { name, scope, days }: { name: string; scope: Scope; days: number }) {
    const token = `${prefix}${newToken()}`;
    const [made] = await this.database.db
      .insert(personTokens)
      .values({
        id: randomUUID(),
        hash: hashOf(token),
        person,
        name: name.trim(),
        scope,
        endsAt: sql`now() + make_interval(days => ${days})` as unknown as string,
      })
      .returning(columns);
    return { ...made!, token };
  }

  /** Withdraws one; its name, or null where there is none such. */
  async withdraw(person: string, id: string): Promise<string | null> {
    const [gone] = await this.database.db
      .delete(personTokens)
      .where(and(eq(personTokens.person, person), eq(personTokens.id, id)))
      .returning({ name: personTokens.name });
    this.known.forget();
    return gone?.name ?? null;
  }

  /** For whom a program acts, and how far; null for a token that has ended, or of somebody who is switched off. */
  of(token: string): Promise<{ person: Person; scope: Scope } | null> {
    const hash = hashOf(token);
    return this.known.of(hash, () => this.find(hash));
  }

  private async find(hash: string): Promise<{ person: Person; scope: Scope } | null> {
    const { db } = this.database;
    const [found] = await db
      .select({
        scope: personTokens.scope,
        id: people.id,
        email: people.email,
        name: people.name,
        owner: people.owner,
      })
      .from(personTokens)
      .innerJoin(people, eq(people.id, personTokens.person))
      .where(and(eq(personTokens.hash, hash), gt(personTokens.endsAt, sql`now()`), eq(people.off, false)));
    if (!found) return null;
    await db.update(personTokens).set({ usedAt: sql`now()` }).where(eq(personTokens.hash, hash));
    const { scope, ...person } = found;
    return { scope, person };
  }

  /** Removes what has ended. */
  async sweep(): Promise<void> {
    await this.database.db
      .delete(personTokens)
      .where(lt(personTokens.endsAt, sql`now() - interval '30 days'`));
  }
}
