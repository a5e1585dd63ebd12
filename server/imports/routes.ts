import { Transform } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsNotEmpty,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  MaxLength,
  ValidateBy,
} from 'class-validator';
import { asList } from '../http/as-list';
import { bodyOf } from '../http/body';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import { tell } from '../tell';
import type { ImportJobs } from './jobs';

export class FileQuery {
  @IsString()
  @IsNotEmpty()
  @MaxLength(255)
  name!: string;

  /** What the import is to be called by: where no answer came, it can be looked whether it arrived. */
  @IsOptional()
  @IsUUID()
  id?: string;

  /** Files that were sent before and become one, instead of what is sent now. */
  @IsOptional()
  @Transform(asList)
  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  part?: string[];
}

class PartQuery {
  @IsString()
  @IsNotEmpty()
  @MaxLength(255)
  name!: string;
}

const longestAnswer = 255;

class AnswersInput {
  /** Column name to one of the answers that its question offers. */
  @IsObject()
  @ValidateBy({
    name: 'areAnswers',
    validator: {
      validate: (value) =>
        Object.values(value ?? {}).every((each) => typeof each === 'string' && each.length <= longestAnswer),
      defaultMessage: () => tell('imports.answersMustNameFor'),
    },
  })
  answers!: Record<string, string>;
}

/** Files coming in. */
export function addImportRoutes(routes: Routes, jobs: ImportJobs): void {
  const path = '/api/imports/:id';
  routes
    .add(
      {
        method: 'post',
        path: '/api/imports',
        counts: 'upload',
        needs: 'person',
        summary: 'Send a file; it is loaded at once unless something has to be asked',
        query: FileQuery,
        rawBody: { type: 'text/csv' },
        answers: { 201: ref('Import') },
      },
      async (c, { query }) =>
        c.json(
          query.part
            ? await jobs.receiveParts(query.part, undefined, query.id)
            : await jobs.receive(query.name, bodyOf(c), undefined, query.id),
          201,
        ),
    )
    .add(
      {
        method: 'post',
        path: '/api/imports/parts',
        counts: 'upload',
        needs: 'person',
        summary: 'Send one of several files that become one dataset; it is kept until all are there',
        query: PartQuery,
        rawBody: { type: 'application/octet-stream' },
        answers: { 201: ref('ImportPart') },
      },
      async (c, { query }) => c.json({ part: await jobs.receivePart(query.name, bodyOf(c)) }, 201),
    )
    .add(
      {
        method: 'get',
        path,
        needs: 'its-import',
        summary: 'How far an import is',
        answers: { 200: ref('Import') },
      },
      async (c) => c.json(await jobs.look(c.req.param('id')!)),
    )
    .add(
      {
        method: 'post',
        path: `${path}/answers`,
        needs: 'its-import',
        summary: 'Answer what was asked and load',
        body: AnswersInput,
        answers: { 202: ref('Import') },
      },
      (c, { body }) => c.json(jobs.answer(c.req.param('id')!, body.answers), 202),
    )
    .add(
      {
        method: 'delete',
        path,
        needs: 'its-import',
        summary: 'Cancel an import; nothing of it is kept',
        answers: { 204: null },
      },
      async (c) => {
        await jobs.cancel(c.req.param('id')!);
        return c.body(null, 204);
      },
    );
}
