import { randomUUID } from 'node:crypto';
import { and, eq, inArray, notInArray, sql } from 'drizzle-orm';
import { atOnce, type Database, type Db } from '../db/client';
import { groups, identities, members, people } from '../db/schema';
import { HttpProblem } from '../http/problem';
import { tell } from '../tell';
import type { Identity } from './openid';
import type { Person } from './sessions';

const columns = {
  id: people.id,
  email: people.email,
  name: people.name,
  owner: people.owner,
  off: people.off,
};

/** A person by what a provider says of them; those who come for the first time are made known. */
async function personOf(tx: Db, { issuer, subject, email, name }: Identity) {
  const [known] = await tx
    .select(columns)
    .from(identities)
    .innerJoin(people, eq(people.id, identities.person))
    .where(and(eq(identities.issuer, issuer), eq(identities.subject, subject)));
  if (known) return known;
  // By an address that the provider has made sure of, and by no other: else anybody could say they are somebody.
  if (email === null) throw new HttpProblem(403, 'not-allowed', tell('people.noSureEmail'));
  const [same] = await tx
    .select(columns)
    .from(people)
    .where(eq(sql`lower(${people.email})`, email.toLowerCase()));
  const [person] = same
    ? [same]
    : await tx.insert(people).values({ id: randomUUID(), email, name }).returning(columns);
  await tx.insert(identities).values({ issuer, subject, person: person!.id });
  return person!;
}

/** Puts a person into the groups that a provider names, and out of others that it named before; groups that owners made stay. */
async function inGroups(tx: Db, person: string, names: readonly string[]): Promise<void> {
  if (names.length)
    await tx
      .insert(groups)
      .values(names.map((name) => ({ id: randomUUID(), name, provided: true })))
      .onConflictDoNothing();
  const named = names.length
    ? await tx
        .select({ id: groups.id })
        .from(groups)
        .where(and(eq(groups.provided, true), inArray(groups.name, [...names])))
    : [];
  const ids = named.map(({ id }) => id);
  const provided = tx.select({ id: groups.id }).from(groups).where(eq(groups.provided, true));
  await tx
    .delete(members)
    .where(
      and(
        eq(members.person, person),
        inArray(members.group, provided),
        ids.length ? notInArray(members.group, ids) : undefined,
      ),
    );
  if (ids.length)
    await tx
      .insert(members)
      .values(ids.map((group) => ({ group, person })))
      .onConflictDoNothing();
}

/** Lets in whoever a provider vouches for. Throws 403 for somebody who is switched off. */
export async function letIn({ db }: Database, identity: Identity): Promise<Person> {
  return atOnce(db, async (tx) => {
    const { off, ...person } = await personOf(tx, identity);
    if (off) throw new HttpProblem(403, 'not-allowed', tell('people.switchedOff'));
    if (identity.groups) await inGroups(tx, person.id, identity.groups);
    return person;
  });
}
