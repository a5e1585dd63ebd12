import { randomUUID } from 'node:crypto';
import { and, asc, count, eq, gt, lt, sql } from 'drizzle-orm';
import { atOnce, type Database, type Db } from '../db/client';
import { invitations, people } from '../db/schema';
import { HttpProblem, invalid } from '../http/problem';
import { tell } from '../tell';
import { hashPassword, isPassword, passwordProblem } from './password';
import type { Person } from './sessions';
import { hashOf, newToken } from './tokens';

/** A link to choose a password works so long. */
export const linkDays = 3;

const publicColumns = {
  id: people.id,
  email: people.email,
  name: people.name,
  owner: people.owner,
  off: people.off,
  createdAt: people.createdAt,
};

const plainEmail = (email: string) => email.trim().toLowerCase();

/** People, and the links by which they come in. */
export class People {
  constructor(private readonly database: Database) {}

  list() {
    return this.database.db
      .select(publicColumns)
      .from(people)
      .orderBy(asc(sql`lower(${people.name})`));
  }

  /** Whoever has an address and a password; null where they do not fit, or the person is switched off. */
  async withPassword(email: string, password: string): Promise<Person | null> {
    const [found] = await this.database.db
      .select({ ...publicColumns, password: people.password })
      .from(people)
      .where(eq(sql`lower(${people.email})`, plainEmail(email)));
    const fits = await isPassword(found && !found.off ? found.password : null, password);
    return fits ? { id: found!.id, email: found!.email, name: found!.name, owner: found!.owner } : null;
  }

  /** Whoever has an address and may sign in; null where nobody has. */
  async called(email: string): Promise<Person | null> {
    const [found] = await this.database.db
      .select({ id: people.id, email: people.email, name: people.name, owner: people.owner })
      .from(people)
      .where(and(eq(sql`lower(${people.email})`, plainEmail(email)), eq(people.off, false)));
    return found ?? null;
  }

  /** A link that works once: for a new person, or for one who chooses another password. */
  async invite({ person, owner = false, madeBy }: { person?: string; owner?: boolean; madeBy?: string }) {
    const token = newToken();
    const [made] = await this.database.db
      .insert(invitations)
      .values({
        hash: hashOf(token),
        person: person ?? null,
        owner,
        madeBy: madeBy ?? null,
        endsAt: sql`now() + make_interval(days => ${linkDays})` as unknown as string,
      })
      .returning({ endsAt: invitations.endsAt });
    return { token, endsAt: made!.endsAt };
  }

  /** What makes the first owner; null where there are people. Links of earlier starts do not work any more. */
  async firstLink(): Promise<string | null> {
    const { db } = this.database;
    const [{ n } = { n: 0 }] = await db.select({ n: count() }).from(people);
    if (n > 0) return null;
    await db.delete(invitations);
    return (await this.invite({ owner: true })).token;
  }

  /** Of whom an invitation is, and what it makes of them; throws 404 for one that has ended. */
  async invitation(token: string, db: Db = this.database.db) {
    const [found] = await db
      .select({ owner: invitations.owner, id: people.id, email: people.email, name: people.name })
      .from(invitations)
      .leftJoin(people, eq(people.id, invitations.person))
      .where(and(eq(invitations.hash, hashOf(token)), gt(invitations.endsAt, sql`now()`)));
    if (!found) throw new HttpProblem(404, 'not-found', tell('people.invitationOver'));
    return found;
  }

  /** Follows an invitation: makes the person, or gives them the password. Works once. */
  async take(
    token: string,
    { email, name, password }: { email: string; name: string; password: string },
  ): Promise<Person> {
    return atOnce(this.database.db, async (tx) => {
      const found = await this.invitation(token, tx);
      const who = { email: found.email ?? email.trim(), name: found.name ?? name.trim() };
      needPassword(password, who);
      const hash = await hashPassword(password);
      const gone = await tx
        .delete(invitations)
        .where(eq(invitations.hash, hashOf(token)))
        .returning({ hash: invitations.hash });
      // Somebody else has followed it in this very moment.
      if (!gone.length) throw new HttpProblem(404, 'not-found', tell('people.invitationOver'));
      if (found.id) {
        const [known] = await tx
          .update(people)
          .set({ password: hash })
          .where(eq(people.id, found.id))
          .returning(publicColumns);
        return known!;
      }
      const [made] = await tx
        .insert(people)
        .values({ id: randomUUID(), ...who, password: hash, owner: found.owner })
        .onConflictDoNothing()
        .returning(publicColumns);
      if (!made) throw invalid([{ pointer: '/email', message: tell('people.emailTaken') }]);
      return made;
    });
  }

  async setPassword({ id, email, name }: Person, password: string): Promise<void> {
    needPassword(password, { email, name });
    await this.database.db
      .update(people)
      .set({ password: await hashPassword(password) })
      .where(eq(people.id, id));
  }

  /** Removes links that do not work any more. */
  async sweep(): Promise<void> {
    await this.database.db.delete(invitations).where(lt(invitations.endsAt, sql`now()`));
  }

  async rename(id: string, name: string): Promise<void> {
    await this.database.db.update(people).set({ name: name.trim() }).where(eq(people.id, id));
  }

  /** Makes a person an owner, or no longer; switches one off or on. The last owner stays one. */
  async change(id: string, to: { owner?: boolean | undefined; off?: boolean | undefined }) {
    return atOnce(this.database.db, async (tx) => {
      await tx.execute(sql`LOCK TABLE ${people} IN SHARE ROW EXCLUSIVE MODE`);
      const [changed] = await tx
        .update(people)
        .set({
          ...(to.owner === undefined ? {} : { owner: to.owner }),
          ...(to.off === undefined ? {} : { off: to.off }),
        })
        .where(eq(people.id, id))
        .returning(publicColumns);
      if (!changed) throw new HttpProblem(404, 'not-found', tell('people.noSuch'));
      const [{ n } = { n: 0 }] = await tx
        .select({ n: count() })
        .from(people)
        .where(and(eq(people.owner, true), eq(people.off, false)));
      if (n === 0) throw new HttpProblem(409, 'last-owner', tell('people.lastOwner'));
      return changed;
    });
  }
}

function needPassword(password: string, who: { email: string; name: string }): void {
  const problem = passwordProblem(password, who);
  if (problem) throw invalid([{ pointer: '/password', message: problem }]);
}
