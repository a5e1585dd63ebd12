import { randomBytes, randomUUID } from 'node:crypto';
import { IsIn, IsNotEmpty, IsOptional, IsString, MaxLength } from 'class-validator';
import { and, desc, eq } from 'drizzle-orm';
import type { Context } from 'hono';
import { needOwnRows } from '../datasets/locked';
import { findDataset } from '../datasets/store';
import type { Database } from '../db/client';
import { pushTokens } from '../db/schema';
import { HttpProblem, invalid, notFound } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { hashOf } from '../people/tokens';
import { tell } from '../tell';
import { pushedTypes, readPushed } from './incoming-rows';
import { pushRows } from './push';
import { keyField } from './target-plans';

class TokenInput {
  /** What it is for. */
  @IsString()
  @IsNotEmpty()
  @MaxLength(100)
  name!: string;
}

class PushQuery {
  @IsOptional()
  @IsIn(['append', 'merge'])
  mode: 'append' | 'merge' = 'append';

  /** The key of the field by which rows are replaced, for `merge`. */
  @IsOptional()
  @IsString()
  @MaxLength(63)
  by?: string;
}

const prefix = 'srv_';
const longestKey = 200;

/** Who is let in by a token: the same answer whatever is wrong with it. */
async function tokenOf({ db }: Database, c: Context, dataset: string) {
  const given = /^Bearer\s+(\S+)$/i.exec(c.req.header('authorization') ?? '')?.[1];
  const [found] = given
    ? await db
        .select()
        .from(pushTokens)
        .where(and(eq(pushTokens.dataset, dataset), eq(pushTokens.hash, hashOf(given))))
    : [];
  if (!found)
    throw new HttpProblem(
      401,
      'token-needed',
      tell('push.tokenNeeded'),
      {},
      { 'www-authenticate': 'Bearer' },
    );
  return found;
}

/** Rows that programs push, and the tokens that let them. */
export function addPushRoutes(
  routes: Routes,
  { database, versionsKept }: { database: Database; versionsKept: number },
): void {
  const { db } = database;
  const path = '/api/datasets/:id';
  const view = ({ id, name, createdAt, usedAt }: typeof pushTokens.$inferSelect) => ({
    id,
    name,
    createdAt: new Date(createdAt).toISOString(),
    usedAt: usedAt === null ? null : new Date(usedAt).toISOString(),
  });

  routes
    .add(
      {
        method: 'get',
        path: `${path}/tokens`,
        needs: { dataset: 'own' },
        summary: 'The tokens that let programs push rows',
        answers: { 200: listOf('PushToken') },
      },
      async (c) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        const all = await db
          .select()
          .from(pushTokens)
          .where(eq(pushTokens.dataset, id))
          .orderBy(desc(pushTokens.createdAt));
        return c.json(all.map(view));
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/tokens`,
        needs: { dataset: 'own' },
        summary: 'Make a token; it is told this once',
        body: TokenInput,
        answers: { 201: ref('NewPushToken') },
      },
      async (c, { body }) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        needOwnRows(dataset);
        const token = `${prefix}${randomBytes(24).toString('base64url')}`;
        const [made] = await db
          .insert(pushTokens)
          .values({ id: randomUUID(), dataset: dataset.id, name: body.name.trim(), hash: hashOf(token) })
          .returning();
        return c.json({ ...view(made!), token }, 201);
      },
    )
    .add(
      {
        method: 'delete',
        path: `${path}/tokens/:token`,
        needs: { dataset: 'own' },
        summary: 'Withdraw a token',
        answers: { 204: null },
      },
      async (c) => {
        const [gone] = await db
          .delete(pushTokens)
          .where(and(eq(pushTokens.dataset, c.req.param('id')!), eq(pushTokens.id, c.req.param('token')!)))
          .returning();
        if (!gone) throw notFound('token', c.req.param('token')!);
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/rows`,
        needs: 'nothing',
        summary: 'Push rows as NDJSON, CSV or Arrow: appended, or in place of those with the same key',
        query: PushQuery,
        rawBody: { type: 'application/x-ndjson' },
        answers: { 200: ref('Pushed') },
      },
      async (c, { query }) => {
        const id = c.req.param('id')!;
        const pusher = await routes.access.pusher(c, id);
        const token = pusher === null ? await tokenOf(database, c, id) : null;
        const once = c.req.header('idempotency-key');
        if (once !== undefined && (once === '' || once.length > longestKey))
          throw invalid([{ pointer: '', message: tell('push.badKey', { most: longestKey }) }]);
        const type = c.req.header('content-type') ?? '';
        const body = new Uint8Array(await c.req.arrayBuffer());
        const by = query.mode === 'merge' ? await keyField(database, id, query.by) : undefined;
        const pushed = await pushRows(
          database,
          id,
          {
            read(fields) {
              const read = readPushed(type, body, fields);
              if (!read)
                throw new HttpProblem(
                  415,
                  'not-a-text-file',
                  tell('push.typeIsNone', { types: pushedTypes.join(', ') }),
                );
              return read;
            },
            by,
            once,
            from: pusher ?? token!.name,
          },
          versionsKept,
        );
        if (token)
          await database.pool.query(
            "UPDATE sorvik.push_tokens SET used_at = now() WHERE id = $1 AND (used_at IS NULL OR used_at < now() - interval '1 minute')",
            [token.id],
          );
        return c.json(pushed);
      },
    );
}
