import { randomUUID } from 'node:crypto';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import { groupGrantee } from '../access/roles';
import { atOnce, type Database } from '../db/client';
import { groups, members, people, rights } from '../db/schema';
import { HttpProblem, invalid } from '../http/problem';
import { tell } from '../tell';

export interface Group {
  id: string;
  name: string;
  /** The ids of its people. */
  people: string[];
}

const noSuch = () => new HttpProblem(404, 'not-found', tell('people.noSuchGroup'));

/** A name that is taken is told as one. */
async function named<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const cause = (error as { cause?: { constraint?: string } }).cause;
    if (cause?.constraint === 'groups_by_name')
      throw invalid([{ pointer: '/name', message: tell('people.groupTaken') }]);
    throw error;
  }
}

/** Groups of people. */
export class Groups {
  constructor(private readonly database: Database) {}

  async list(): Promise<Group[]> {
    const { db } = this.database;
    const all = await db
      .select({ id: groups.id, name: groups.name })
      .from(groups)
      .orderBy(asc(sql`lower(${groups.name})`));
    const found = await db.select().from(members);
    return all.map((group) => ({
      ...group,
      people: found.flatMap(({ group: of, person }) => (of === group.id ? person : [])),
    }));
  }

  async find(id: string): Promise<Group> {
    const found = (await this.list()).find((group) => group.id === id);
    if (!found) throw noSuch();
    return found;
  }

  async make(name: string): Promise<Group> {
    const id = randomUUID();
    await named(() => this.database.db.insert(groups).values({ id, name: name.trim() }));
    return this.find(id);
  }

  async rename(id: string, name: string): Promise<Group> {
    await named(() => this.database.db.update(groups).set({ name: name.trim() }).where(eq(groups.id, id)));
    return this.find(id);
  }

  /** Says anew who is in a group. */
  async setPeople(id: string, who: readonly string[]): Promise<Group> {
    await atOnce(this.database.db, async (tx) => {
      const [group] = await tx.select({ id: groups.id }).from(groups).where(eq(groups.id, id)).for('update');
      if (!group) throw noSuch();
      const wanted = [...new Set(who)];
      const known = wanted.length
        ? await tx.select({ id: people.id }).from(people).where(inArray(people.id, wanted))
        : [];
      if (known.length < wanted.length)
        throw invalid([{ pointer: '/people', message: tell('people.noSuch') }]);
      await tx.delete(members).where(eq(members.group, id));
      if (wanted.length) await tx.insert(members).values(wanted.map((person) => ({ group: id, person })));
    });
    return this.find(id);
  }

  /** What people are called. */
  async namesOf(ids: readonly string[]): Promise<string[]> {
    if (!ids.length) return [];
    const found = await this.database.db
      .select({ name: people.name })
      .from(people)
      .where(inArray(people.id, [...ids]));
    return found.map(({ name }) => name);
  }

  /** Removes a group, and with it the rights that were given to it. */
  async remove(id: string): Promise<Group> {
    const group = await this.find(id);
    await atOnce(this.database.db, async (tx) => {
      await tx.delete(rights).where(eq(rights.grantee, groupGrantee(id)));
      await tx.delete(groups).where(eq(groups.id, id));
    });
    return group;
  }
}
