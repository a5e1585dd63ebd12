import type { Person, WhoMay, WhoMayView } from '@sorvik/core/board/api-types';
import { datasetsOf } from '@sorvik/core/board/board';
import { and, asc, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import { shownBoard } from '../boards/versions';
import type { Database } from '../db/client';
import { boards, datasets, groups, members, people, rights } from '../db/schema';
import { notFound } from '../http/problem';
import { everybody, isAtLeast, type Thing } from './needs';

/** Who may do something with a board or a dataset, by name: what that is in the end, and by which rights they have it. */
async function whoMay({ db }: Database, kind: Thing, thing: string): Promise<WhoMay[]> {
  const inGroups = db
    .select({ grantee: sql<string>`'group/' || ${members.group}` })
    .from(members)
    .where(eq(members.person, people.id));
  const rows = await db
    .select({
      id: people.id,
      name: people.name,
      email: people.email,
      owner: people.owner,
      role: rights.role,
      grantee: rights.grantee,
      group: groups.name,
    })
    .from(people)
    .leftJoin(
      rights,
      and(
        eq(rights.kind, kind),
        eq(rights.thing, thing),
        or(eq(rights.grantee, people.id), eq(rights.grantee, everybody), inArray(rights.grantee, inGroups)),
      ),
    )
    .leftJoin(groups, eq(rights.grantee, sql`'group/' || ${groups.id}`))
    .where(and(eq(people.off, false), sql`(${people.owner} OR ${rights.role} IS NOT NULL)`))
    .orderBy(asc(people.name), asc(people.id));
  const found = new Map<string, WhoMay>();
  for (const { id, name, email, owner, role, grantee, group } of rows) {
    const known = found.get(id) ?? { id, name, email, role: 'view', by: [] };
    if (!found.has(id) && owner) known.by.push({ is: 'owner' });
    if (owner) known.role = 'own';
    if (role && isAtLeast(role, known.role)) known.role = role;
    if (role)
      known.by.push(
        grantee === everybody
          ? { is: 'everybody', role }
          : group === null
            ? { is: 'person', role }
            : { is: 'group', role, name: group },
      );
    found.set(id, known);
  }
  return [...found.values()];
}

/** The people who come by a dataset. */
export const whoMayDataset = async (database: Database, id: string): Promise<WhoMayView> => ({
  people: await whoMay(database, 'dataset', id),
  data: [],
});

/** The same of a board, with who of them does not see the figures that it is made of. */
export async function whoMayBoard(database: Database, board: string): Promise<WhoMayView> {
  const { db } = database;
  const all = await whoMay(database, 'board', board);
  const [stored] = await db
    .select({ document: boards.document, published: boards.published, by: boards.publishedBy })
    .from(boards)
    .where(and(eq(boards.id, board), isNull(boards.deletedAt)));
  if (!stored) throw notFound('board', board);
  const published = stored.published === null ? [] : datasetsOf((await shownBoard(db, board)).document);
  const named = [...new Set([...datasetsOf(stored.document), ...published])];
  const known = await db
    .select({ id: datasets.id, title: datasets.name })
    .from(datasets)
    .where(and(inArray(datasets.id, named), isNull(datasets.deletedAt)));
  const data = await Promise.all(
    known.map(async ({ id, title }) => {
      const see = new Set((await whoMay(database, 'dataset', id)).map((each) => each.id));
      // Viewers of what is published see of a dataset what its publisher shows them of it.
      const isShown = published.includes(id) && stored.by !== null && see.has(stored.by);
      const others = all.filter((each) => !see.has(each.id));
      const who = (list: WhoMay[]): Person[] =>
        list.map(({ id: person, name, email }) => ({ id: person, name, email }));
      return {
        dataset: id,
        title,
        blind: isShown ? [] : who(others),
        partly: isShown ? who(others.filter(({ role }) => role !== 'view')) : [],
      };
    }),
  );
  return { people: all, data: data.filter(({ blind, partly }) => blind.length + partly.length > 0) };
}
