import { and, eq, inArray, or, type SQL, sql } from 'drizzle-orm';
import type { Db } from '../db/client';
import { members, rights } from '../db/schema';
import type { Person } from '../people/sessions';
import { everybody, isAtLeast, type Role, type Thing } from './needs';

/** Rights of a group are given to this. */
export const groupGrantee = (id: string): string => `group/${id}`;

/** The rights that somebody has: their own, those of their groups, and everybody's. */
export const heldBy = (db: Db, person: string): SQL =>
  or(
    eq(rights.grantee, person),
    eq(rights.grantee, everybody),
    inArray(
      rights.grantee,
      db
        .select({ grantee: sql<string>`'group/' || ${members.group}` })
        .from(members)
        .where(eq(members.person, person)),
    ),
  )!;

/** What a person may do with something; null for nothing, also where there is none such. */
export async function roleOf(
  db: Db,
  { id, owner }: Pick<Person, 'id' | 'owner'>,
  kind: Thing,
  thing: string,
): Promise<Role | null> {
  if (owner) return 'own';
  const found = await db
    .select({ role: rights.role })
    .from(rights)
    .where(and(eq(rights.kind, kind), eq(rights.thing, thing), heldBy(db, id)));
  return found.reduce<Role | null>((best, { role }) => (isAtLeast(best, role) ? best : role), null);
}
