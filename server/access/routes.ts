import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsNotEmpty, IsOptional, IsString, MaxLength, Min, ValidateIf } from 'class-validator';
import { and, eq, sql } from 'drizzle-orm';
import type { Context } from 'hono';
import type { Database } from '../db/client';
import { groups, people, rights } from '../db/schema';
import { HttpProblem, invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { tell } from '../tell';
import type { Access } from './access';
import type { Audit } from './audit';
import { everybody, type Role, roles, type Thing } from './needs';
import { groupGrantee } from './roles';
import { whoMayBoard, whoMayDataset } from './who-may';

class RightInput {
  /** The id of a person, `group/` and that of a group, or `everybody`. */
  @IsString()
  @IsNotEmpty()
  @MaxLength(60)
  grantee!: string;

  /** null takes it away. */
  @ValidateIf((_, value) => value !== null)
  @IsIn(roles)
  role!: Role | null;
}

class AuditQuery {
  @IsOptional()
  @IsString()
  @MaxLength(60)
  person?: string;

  @IsOptional()
  @IsString()
  @MaxLength(60)
  action?: string;

  @IsOptional()
  @IsString()
  @MaxLength(200)
  text?: string;

  /** Entries that are older than this one. */
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  before?: number;
}

const onPage = 100;
const inFile = 100_000;

/** Who may do what with boards and datasets, and what was done with that. */
export function addAccessRoutes(routes: Routes, database: Database, access: Access, audit: Audit): void {
  const { db } = database;
  const rightsOf = async (kind: Thing, thing: string) => {
    const found = await db
      .select({
        grantee: rights.grantee,
        role: rights.role,
        name: sql<string | null>`coalesce(${people.name}, ${groups.name})`,
        email: people.email,
      })
      .from(rights)
      .leftJoin(people, eq(people.id, rights.grantee))
      .leftJoin(groups, eq(rights.grantee, sql`'group/' || ${groups.id}`))
      .where(and(eq(rights.kind, kind), eq(rights.thing, thing)));
    return found.sort((a, b) => roles.indexOf(b.role) - roles.indexOf(a.role));
  };
  const needTeam = () => {
    if (!access.team) throw new HttpProblem(404, 'not-found', tell('people.alone'));
  };
  /** What a person or a group is called; undefined where there is none such. */
  const nameOf = async (grantee: string): Promise<string | undefined> => {
    const group = grantee.startsWith(groupGrantee(''));
    const [found] = group
      ? await db
          .select({ name: groups.name })
          .from(groups)
          .where(eq(groups.id, grantee.slice(groupGrantee('').length)))
      : await db.select({ name: people.name }).from(people).where(eq(people.id, grantee));
    return found?.name;
  };
  const change = async (c: Context, kind: Thing, { grantee, role }: RightInput) => {
    needTeam();
    const thing = c.req.param('id')!;
    if (grantee === everybody && role === 'own')
      throw invalid([{ pointer: '/role', message: tell('access.notEverybody') }]);
    const name = await nameOf(grantee);
    if (name === undefined && grantee !== everybody)
      throw invalid([{ pointer: '/grantee', message: tell('people.noSuch') }]);
    if (role) await access.give(kind, thing, grantee, role);
    else
      await db
        .delete(rights)
        .where(and(eq(rights.kind, kind), eq(rights.thing, thing), eq(rights.grantee, grantee)));
    await audit.note(c, {
      action: 'rights-changed',
      thing: `${kind}/${thing}`,
      detail: { of: name ?? everybody, role },
    });
    return c.json(await rightsOf(kind, thing));
  };
  for (const kind of ['board', 'dataset'] as const) {
    const path = `/api/${kind}s/:id/rights`;
    const who = kind === 'board' ? whoMayBoard : whoMayDataset;
    const own = kind === 'board' ? ({ board: 'own' } as const) : ({ dataset: 'own' } as const);
    routes
      .add(
        {
          method: 'get',
          path,
          needs: own,
          summary: `Who may do what with a ${kind}`,
          answers: { 200: listOf('Right') },
        },
        async (c) => c.json(await rightsOf(kind, c.req.param('id')!), 200, { 'cache-control': 'no-store' }),
      )
      .add(
        {
          method: 'put',
          path,
          needs: own,
          summary: `Give or take what somebody may do with a ${kind}`,
          body: RightInput,
          answers: { 200: listOf('Right') },
        },
        (c, { body }) => change(c, kind, body),
      )
      .add(
        {
          method: 'get',
          path: `/api/${kind}s/:id/who`,
          needs: own,
          summary: `Which people come by a ${kind} and why; of a board, who of them does not see what it is made of`,
          answers: { 200: ref('WhoMay') },
        },
        async (c) => c.json(await who(database, c.req.param('id')!), 200, { 'cache-control': 'no-store' }),
      );
  }
  routes
    .add(
      {
        method: 'get',
        path: '/api/audit',
        needs: 'owner',
        summary: 'What was done to rights and with them, newest first',
        query: AuditQuery,
        answers: { 200: listOf('AuditEntry') },
      },
      async (c, { query }) => c.json(await audit.list(query, onPage), 200, { 'cache-control': 'no-store' }),
    )
    .add(
      {
        method: 'get',
        path: '/api/audit.ndjson',
        needs: 'owner',
        summary: 'The same as a file, an entry a line',
        query: AuditQuery,
        answers: { 200: 'application/x-ndjson' },
      },
      async (c, { query }) => {
        const entries = await audit.list(query, inFile);
        return c.body(entries.map((entry) => `${JSON.stringify(entry)}\n`).join(''), 200, {
          'content-type': 'application/x-ndjson',
          'content-disposition': 'attachment; filename="audit.ndjson"',
          'cache-control': 'no-store',
        });
      },
    );
}
