import { eq } from 'drizzle-orm';
import type { StoredDataset } from '../datasets/store';
import type { Database } from '../db/client';
import { rememberedOf } from '../db/remembered';
import { groups, members } from '../db/schema';
import type { Person } from '../people/sessions';
import type { Restriction } from '../sources/restriction';
import { asking } from './asking';
import { roleOf } from './roles';

const groupsKnown = rememberedOf<string[]>(['groups', 'members', 'people'], { max: 5000 });

/** The names of the groups that a person is in. */
async function groupsOf(database: Database, person: string): Promise<string[]> {
  const found = await groupsKnown(database).of(person, async () => {
    const all = await database.db
      .select({ name: groups.name })
      .from(members)
      .innerJoin(groups, eq(groups.id, members.group))
      .where(eq(members.person, person));
    return all.map(({ name }) => name);
  });
  return found ?? [];
}

/** What a dataset's rule leaves a person of it; null where that is all: it has none, or it is theirs. */
export async function restrictionFor(
  database: Database,
  { id, rowRule }: Pick<StoredDataset, 'id' | 'rowRule'>,
  person: Person,
): Promise<Restriction | null> {
  if (rowRule === null || (await roleOf(database, person, 'dataset', id)) === 'own') return null;
  return { rule: rowRule, email: person.email, groups: await groupsOf(database, person.id) };
}

/** The same of whoever asks now. What the server does by itself it does with all rows; whoever has no name has no groups. */
export const restrictionNow =
  (database: Database) =>
  async (dataset: Pick<StoredDataset, 'id' | 'rowRule'>): Promise<Restriction | null> => {
    const asker = asking.getStore();
    if (!asker || dataset.rowRule === null) return null;
    if (!asker.person) return { rule: dataset.rowRule, email: null, groups: [] };
    return restrictionFor(database, dataset, asker.person);
  };
