import type { DatasetView } from '@sorvik/core/board/api-types';
import { type FieldType, fieldTypes, type KeyValue } from '@sorvik/core/data/values';
import { IsHoldable } from '@sorvik/core/levers/value-text';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsNotEmpty,
  IsOptional,
  IsString,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { and, eq } from 'drizzle-orm';
import type { Context } from 'hono';
import { fields } from '../db/schema';
import { asList } from '../http/as-list';
import { notFound } from '../http/problem';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import type { Source } from '../sources/source';
import type { Sources } from '../sources/sources';
import { addComputed, changeComputed, dropComputed, fieldUses } from './computed';
import { absentValues, fieldValues } from './field-values';
import { NameInput, PageQuery } from './inputs';
import { addLookups, type LookupKeys, previewLookup } from './lookups';
import { ensureProfiles } from './profile';
import { previewRetype, retype } from './retype';
import { fieldShape } from './shape';
import { type Field, findDataset, findField } from './store';

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

class LookupKeysInput implements LookupKeys {
  @IsString()
  @MaxLength(64)
  dataset!: string;

  /** The field of the other dataset, and the one of this dataset that has its values. */
  @IsString()
  @MaxLength(64)
  on!: string;

  @IsString()
  @MaxLength(64)
  from!: string;
}

class LookedUpField extends NameInput {
  @IsString()
  @MaxLength(64)
  field!: string;
}

class LookupInput extends LookupKeysInput {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => LookedUpField)
  fields!: LookedUpField[];
}

class TypeInput {
  @IsIn(fieldTypes)
  type!: FieldType;
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

/** A dataset as it is shown now. */
export type ViewOf = (id: string) => Promise<DatasetView>;

const path = '/api/datasets/:id';

/** The fields of datasets: what they are, what is in them, and what they are computed from. */
export function addFieldRoutes(routes: Routes, sources: Sources, view: ViewOf): void {
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

  routes
    .add(
      {
        method: 'patch',
        path: `${path}/fields/:key`,
        needs: { dataset: 'edit' },
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
        needs: { dataset: 'edit' },
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
        method: 'post',
        path: `${path}/lookups`,
        needs: { dataset: 'edit' },
        summary: 'Add fields whose values another dataset has, where a field of both says which row',
        body: LookupInput,
        answers: { 201: ref('Dataset') },
      },
      async (c, { body }) => {
        const id = c.req.param('id')!;
        await routes.access.also(c, 'dataset', body.dataset, 'edit');
        await addLookups(database, id, body);
        return c.json(await view(id), 201);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/lookups/preview`,
        needs: { dataset: 'edit' },
        summary: 'What looking up rows in another dataset would find',
        stores: false,
        body: LookupKeysInput,
        answers: { 200: ref('LookupPreview') },
      },
      async (c, { body }) => {
        await routes.access.also(c, 'dataset', body.dataset, 'edit');
        return c.json(await previewLookup(database, c.req.param('id')!, body));
      },
    )
    .add(
      {
        method: 'delete',
        path: `${path}/fields/:key`,
        needs: { dataset: 'edit' },
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
        needs: { dataset: 'edit' },
        summary: 'What names a field: computed fields and boards',
        answers: { 200: ref('FieldUses') },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const field = await findField(db, dataset.id, c.req.param('key')!);
        const { boards, ...uses } = await fieldUses(database, dataset, field.key);
        return c.json({ ...uses, boards: await routes.access.visible(c, 'board', boards) });
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/fields/:key/shape`,
        counts: 'question',
        needs: { dataset: 'view' },
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
        counts: 'question',
        needs: { dataset: 'shown' },
        summary: "A page of a field's values, searched where asked for",
        query: ValuesQuery,
        answers: { 200: ref('FieldValues') },
      },
      async (c, { query }) => {
        routes.access.limits(c)?.needListed(c.req.param('key')!);
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
        counts: 'question',
        needs: { dataset: 'shown' },
        summary: "Which of some values are not among a field's",
        stores: false,
        body: AbsentInput,
        answers: { 200: ref('AbsentValues') },
      },
      async (c, { body }) => {
        routes.access.limits(c)?.needListed(c.req.param('key')!);
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
        needs: { dataset: 'edit' },
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
        needs: { dataset: 'edit' },
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
    );
}
