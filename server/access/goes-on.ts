import { and, eq } from 'drizzle-orm';
import type { Database } from '../db/client';
import { datasets, people } from '../db/schema';
import { isAtLeast } from './needs';
import { roleOf } from './roles';

/** A person who is not switched off; undefined where there is none such. */
export async function activePerson({ db }: Database, id: string) {
  const [found] = await db
    .select({ id: people.id, email: people.email, name: people.name, owner: people.owner })
    .from(people)
    .where(and(eq(people.id, id), eq(people.off, false)));
  return found;
}

/** Whether a dataset has rows that are not for everybody: whoever may change rows, or fetch them all, sees them all. */
export async function hasRowRule({ db }: Database, dataset: string): Promise<boolean> {
  const [found] = await db.select({ rule: datasets.rowRule }).from(datasets).where(eq(datasets.id, dataset));
  return found !== undefined && found.rule !== null;
}

/** Whether somebody may still change the rows of a dataset: what they have set up goes on by itself only as long as that. */
export async function mayChangeRows(database: Database, person: string, dataset: string): Promise<boolean> {
  const found = await activePerson(database, person);
  const role = found ? await roleOf(database, found, 'dataset', dataset) : null;
  return isAtLeast(role, 'edit') && (role === 'own' || !(await hasRowRule(database, dataset)));
}
