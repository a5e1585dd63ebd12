import { readRowRule } from '@sorvik/core/data/row-rule';
import { fullEngine } from '@sorvik/formula/full-engine';
import { IsNotEmpty, IsOptional, IsString, MaxLength, ValidateIf } from 'class-validator';
import { eq } from 'drizzle-orm';
import { restrictionFor } from '../access/row-rules';
import { datasets, people } from '../db/schema';
import { invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import { allowedRows } from '../sources/restriction';
import type { Sources } from '../sources/sources';
import { tell } from '../tell';
import { rowsOf } from './seen-view';
import { type Field, fieldsOf, findDataset, type StoredDataset } from './store';

const longestRule = 10_000;
/** So many rows are shown of what somebody would see. */
const shownRows = 20;

class RuleInput {
  /** null takes it away. */
  @ValidateIf((_, value) => value !== null)
  @IsString()
  @IsNotEmpty()
  @MaxLength(longestRule)
  rule!: string | null;
}

class TryInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(60)
  person!: string;

  /** One that is not kept yet; left out, the one that is. */
  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(longestRule)
  rule?: string;
}

/** Throws for a rule that cannot be read, or that a database elsewhere could not go by. */
function needRule(rule: string, fields: readonly Field[], { connection }: StoredDataset): void {
  const wrong = (message: string) => invalid([{ pointer: '/rule', message }]);
  const read = readRowRule(rule, fields, fullEngine);
  if (!read.ok) throw wrong(read.problem.message);
  const guarded = allowedRows('', { rule, email: null, groups: [] }, fields, true)([]);
  // What makes nothing of what has no result is in our own database only.
  if (connection !== null && guarded.includes('sorvik.')) throw wrong(tell('datasets.ruleInPlace'));
}

/** Which rows of a dataset are for whom. */
export function addRuleRoutes(routes: Routes, sources: Sources): void {
  const { database } = sources;
  const { db } = database;
  routes
    .add(
      {
        method: 'get',
        path: '/api/datasets/:id/rule',
        needs: { dataset: 'own' },
        summary: 'Which rows of a dataset those see who do not own it',
        answers: { 200: ref('RowRule') },
      },
      async (c) => {
        const { rowRule } = await findDataset(db, c.req.param('id')!);
        return c.json({ rule: rowRule }, 200, { 'cache-control': 'no-store' });
      },
    )
    .add(
      {
        method: 'put',
        path: '/api/datasets/:id/rule',
        needs: { dataset: 'own' },
        summary: 'Say which rows of a dataset those see who do not own it',
        noted: 'rule-changed',
        body: RuleInput,
        answers: { 200: ref('RowRule') },
      },
      async (c, { body }) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        if (body.rule !== null) needRule(body.rule, await fieldsOf(db, dataset.id), dataset);
        await db.update(datasets).set({ rowRule: body.rule }).where(eq(datasets.id, dataset.id));
        return c.json({ rule: body.rule });
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/datasets/:id/rule/try',
        needs: { dataset: 'own' },
        summary: 'What somebody sees of a dataset, or would see by another rule',
        stores: false,
        body: TryInput,
        answers: { 200: ref('TriedRule') },
      },
      async (c, { body }) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const rule = body.rule ?? dataset.rowRule;
        if (rule !== null) needRule(rule, await fieldsOf(db, dataset.id), dataset);
        const [person] = await db
          .select({ id: people.id, email: people.email, name: people.name, owner: people.owner })
          .from(people)
          .where(eq(people.id, body.person));
        if (!person) throw invalid([{ pointer: '/person', message: tell('people.noSuch') }]);
        const { signal } = c.req.raw;
        const restriction = await restrictionFor(database, { id: dataset.id, rowRule: rule }, person);
        const { source, fields } = await sources.asSeen(dataset.id, restriction);
        return c.json({
          owns: restriction === null && rule !== null,
          rows: await rowsOf(source, signal),
          of: dataset.rows,
          fields: fields.map(({ name }) => name),
          sample: await source.rows(0, shownRows, signal),
        });
      },
    );
}
