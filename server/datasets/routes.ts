import type { DatasetView } from '@sorvik/core/board/api-types';
import { type FieldType, fieldTypes, type KeyValue } from '@sorvik/core/data/values';
import { IsHoldable } from '@sorvik/core/levers/value-text';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsNotEmpty,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { and, asc, count, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Context } from 'hono';
import Papa from 'papaparse';
import { datasets, fields, importRejects } from '../db/schema';
import { asList } from '../http/as-list';
import { notFound } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { isOnItsWay } from '../sources/copies/copies';
import type { Source } from '../sources/source';
import type { Sources } from '../sources/sources';
import { addComputed, changeComputed, dropComputed, fieldUses } from './computed';
import { absentValues, fieldValues } from './field-values';
import { ensureProfiles } from './profile';
import { previewRetype, retype } from './retype';
import { fieldShape } from './shape';
import { type Field, fieldsOf, findDataset, findField, type StoredDataset, viewDataset } from './store';

class NameInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  name!: string;
}

const longestFormula = 10_000;

class FieldInput extends NameInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(longestFormula)
  formula!: string;
}

class FieldChange {
  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  name?: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(longestFormula)
  formula?: string;
}

class TypeInput {
  @IsIn(fieldTypes)
  type!: FieldType;
}

/** No dataset has so many rows. */
const mostRows = 1_000_000_000_000;

class PageQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(mostRows)
  offset = 0;

  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(1000)
  limit = 200;
}

class ValuesQuery extends PageQuery {
  @IsOptional()
  @IsString()
  @MaxLength(200)
  search = '';

  /** Values that come before all others, as text. */
  @IsOptional()
  @Transform(asList)
  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @MaxLength(1000, { each: true })
  first: string[] = [];
}

class AbsentInput {
  @IsArray()
  @ArrayMaxSize(10_000)
  @IsHoldable({ each: true })
  values!: KeyValue[];
}

const path = '/api/datasets/:id';

/** Datasets, their fields and their rows. */
export function addDatasetRoutes(routes: Routes, sources: Sources): void {
  const { database } = sources;
  const { db } = database;
  /** What is asked of the rows of a field. */
  const ofField = <T>(c: Context, work: (source: Source, field: Field) => Promise<T>): Promise<T> =>
    sources.ask(c.req.param('id')!, ({ source, fields: known }) => {
      const key = c.req.param('key')!;
      const field = known.find((each) => each.key === key);
      if (!field) throw notFound('field', key);
      return work(source, field);
    });
  const shown = async (stored: StoredDataset): Promise<DatasetView> => ({
    ...(await viewDataset(db, stored)),
    ...(sources.copies ? { copy: sources.copies.view(stored) } : {}),
  });
  const view = async (id: string) => {
    await ensureProfiles(sources, await findDataset(db, id));
    return shown(await findDataset(db, id));
  };

  routes
    .add(
      {
        method: 'get',
        path: '/api/datasets',
        summary: 'All datasets, newest first',
        answers: { 200: listOf('Dataset') },
      },
      async (c) => {
        const all = await db
          .select()
          .from(datasets)
          .where(isNull(datasets.deletedAt))
          .orderBy(desc(datasets.createdAt));
        const found = await Promise.all(all.map(shown));
        if (found.some(({ copy }) => isOnItsWay(copy))) c.header('cache-control', 'no-store');
        return c.json(found);
      },
    )
    .add(
      {
        method: 'get',
        path,
        summary: 'One dataset with the profile of each field',
        answers: { 200: ref('Dataset') },
      },
      async (c) => {
        const found = await view(c.req.param('id')!);
        // How far a copy is changes all the time.
        if (isOnItsWay(found.copy)) c.header('cache-control', 'no-store');
        return c.json(found);
      },
    )
    .add(
      {
        method: 'patch',
        path,
        summary: 'Rename a dataset',
        body: NameInput,
        answers: { 200: ref('Dataset') },
      },
      async (c, { body }) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        await db.update(datasets).set({ name: body.name.trim() }).where(eq(datasets.id, id));
        return c.json(await view(id));
      },
    )
    .add(
      { method: 'delete', path, summary: 'Delete a dataset; it can be restored', answers: { 204: null } },
      async (c) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        await db.update(datasets).set({ deletedAt: sql`now()` }).where(eq(datasets.id, id));
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/restore`,
        summary: 'Take back the deletion of a dataset',
        answers: { 200: ref('Dataset') },
      },
      async (c) => {
        const id = c.req.param('id')!;
        await db.update(datasets).set({ deletedAt: null }).where(eq(datasets.id, id));
        return c.json(await view(id));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rows`,
        summary: 'Rows in the order of the file',
        query: PageQuery,
        answers: { 200: ref('Rows') },
      },
      async (c, { query }) => {
        const rows = await sources.ask(c.req.param('id')!, ({ source }) =>
          source.rows(query.offset, query.limit, c.req.raw.signal),
        );
        return c.json({ offset: query.offset, rows });
      },
    )
    .add(
      {
        method: 'patch',
        path: `${path}/fields/:key`,
        summary: 'Rename a field, or compute it by another formula',
        body: FieldChange,
        answers: { 200: ref('Dataset') },
      },
      async (c, { body: { name, formula } }) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const field = await findField(db, dataset.id, c.req.param('key')!);
        if (formula !== undefined && formula !== field.formula)
          await changeComputed(database, dataset, field.key, formula);
        if (name !== undefined)
          await db
            .update(fields)
            .set({ name: name.trim() })
            .where(and(eq(fields.dataset, dataset.id), eq(fields.key, field.key)));
        return c.json(await view(dataset.id));
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/fields`,
        summary: 'Add a field that is computed from others of its row',
        body: FieldInput,
        answers: { 201: ref('Dataset') },
      },
      async (c, { body }) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        await addComputed(database, dataset, { name: body.name.trim(), formula: body.formula });
        return c.json(await view(dataset.id), 201);
      },
    )
    .add(
      {
        method: 'delete',
        path: `${path}/fields/:key`,
        summary: 'Delete a computed field that no other one is computed from',
        answers: { 200: ref('Dataset') },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const field = await findField(db, dataset.id, c.req.param('key')!);
        await dropComputed(database, dataset, field.key);
        return c.json(await view(dataset.id));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/fields/:key/uses`,
        summary: 'What names a field: computed fields and boards',
        answers: { 200: ref('FieldUses') },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const field = await findField(db, dataset.id, c.req.param('key')!);
        return c.json(await fieldUses(database, dataset, field.key));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/fields/:key/shape`,
        summary: "How a field's values are spread",
        answers: { 200: ref('FieldShape') },
      },
      async (c) => {
        await ensureProfiles(sources, await findDataset(db, c.req.param('id')!));
        const { signal } = c.req.raw;
        const shape = await ofField(c, async (source, field) => {
          // Its type may have been changed a moment ago.
          const profile = field.profile ?? (await source.describe(field, signal));
          return fieldShape(source, { ...field, profile }, signal);
        });
        return c.json(shape);
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/fields/:key/values`,
        summary: "A page of a field's values, searched where asked for",
        query: ValuesQuery,
        answers: { 200: ref('FieldValues') },
      },
      async (c, { query }) => {
        const page = await ofField(c, (source, field) =>
          fieldValues(source, c.req.param('id')!, field, query, c.req.raw.signal),
        );
        return c.json(page);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/fields/:key/absent`,
        summary: "Which of some values are not among a field's",
        stores: false,
        body: AbsentInput,
        answers: { 200: ref('AbsentValues') },
      },
      async (c, { body }) => {
        const absent = await ofField(c, (source, field) =>
          absentValues(source, c.req.param('id')!, field, body.values, c.req.raw.signal),
        );
        return c.json({ absent });
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/fields/:key/retype`,
        summary: 'What a change of type would keep and lose',
        query: TypeInput,
        answers: { 200: ref('Retype') },
      },
      async (c, { query }) => {
        const [id, key] = [c.req.param('id')!, c.req.param('key')!];
        const preview = await previewRetype(database, id, key, query.type, c.req.raw.signal);
        return c.json(preview);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/fields/:key/retype`,
        summary: 'Change the type of a field',
        body: TypeInput,
        answers: { 200: ref('Dataset') },
      },
      async (c, { body }) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const field = await findField(db, dataset.id, c.req.param('key')!);
        if (field.type !== body.type) await retype(database, dataset, field, body.type);
        return c.json(await view(dataset.id));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rejects`,
        summary: 'Rows of the file that were skipped, with the reason',
        query: PageQuery,
        answers: { 200: ref('Rejects') },
      },
      async (c, { query }) => {
        const { id } = await findDataset(db, c.req.param('id')!);
        const mine = eq(importRejects.dataset, id);
        const [total] = await db.select({ n: count() }).from(importRejects).where(mine);
        const rejects = await db
          .select({
            line: importRejects.line,
            column: importRejects.column,
            reason: importRejects.reason,
            cells: importRejects.cells,
          })
          .from(importRejects)
          .where(mine)
          .orderBy(asc(importRejects.line))
          .limit(query.limit)
          .offset(query.offset);
        return c.json({ total: total?.n ?? 0, rejects });
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/rejects.csv`,
        summary: 'All rows that were skipped, as CSV',
        answers: { 200: 'text/csv' },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const names = (await fieldsOf(db, dataset.id)).map((field) => field.name);
        const all = await db
          .select()
          .from(importRejects)
          .where(eq(importRejects.dataset, dataset.id))
          .orderBy(asc(importRejects.line));
        if (!all.length) throw notFound('skipped', dataset.id);
        const rows = all.map(({ line, column, reason, cells }) => [line, column, reason, ...cells]);
        // A cell that a spreadsheet would run as a formula is made plain text.
        const csv = Papa.unparse([['line', 'column', 'reason', ...names], ...rows], {
          newline: '\n',
          escapeFormulae: true,
        });
        return c.body(`${csv}\n`, 200, {
          'content-type': 'text/csv; charset=utf-8',
          'content-disposition': `attachment; filename="${dataset.id}-set-aside.csv"`,
        });
      },
    );
}
