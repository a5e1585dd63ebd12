import type { ConnectionView } from '@sorvik/core/board/api-types';
import {
  IsIn,
  IsInt,
  IsNotEmpty,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import { findDataset, viewDataset } from '../datasets/store';
import { HttpProblem, notFound } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import type { Place } from '../sources/in-place/in-place-source';
import { sourceProblem } from '../sources/in-place/problems';
import { relationOf, tablesOf } from '../sources/in-place/relations';
import type { Sources } from '../sources/sources';
import { tell } from '../tell';
import { lookAgain, placeTable } from './placed-table';

const longestSecret = 1000;
/** A certificate with those that vouch for it. */
const longestAuthority = 100_000;

class ConnectionBody {
  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  name!: string;

  @IsString()
  @Matches(/^[A-Za-z0-9.:_-]{1,253}$/, {
    message: () => tell('connections.hostUnfit'),
  })
  host!: string;

  @IsInt()
  @Min(1)
  @Max(65_535)
  port!: number;

  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  database!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  user!: string;

  /** Left out, it stays what it is. */
  @IsOptional()
  @IsString()
  @MaxLength(longestSecret)
  password?: string;

  @IsIn(['usual', 'own', 'off'])
  tls!: ConnectionView['tls'];

  @ValidateIf((body: ConnectionBody) => body.authority !== null)
  @IsString()
  @MaxLength(longestAuthority)
  authority!: string | null;

  @IsInt()
  @Min(1)
  @Max(600)
  seconds!: number;

  @IsInt()
  @Min(1)
  @Max(50)
  most!: number;
}

class TableBody {
  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  schema!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  table!: string;

  /** What the dataset is called; the table's name where it is left out. */
  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  name?: string;
}

const path = '/api/connections';

/** Other databases, and their tables as datasets. */
export function addConnectionRoutes(routes: Routes, { database, connections }: Sources): void {
  const { db } = database;
  /** What is asked of another database; why it did not answer is told as what it means. */
  const asking = async <T>(id: string, work: (place: Place) => Promise<T>): Promise<T> => {
    const place = await connections.place(id);
    return work(place).catch((error) => {
      throw sourceProblem(error, place);
    });
  };
  routes
    .add(
      {
        method: 'get',
        path,
        needs: 'owner',
        summary: 'Other databases of which tables can be read',
        answers: { 200: listOf('Connection') },
      },
      async (c) => c.json(await connections.list()),
    )
    .add(
      {
        method: 'post',
        path,
        needs: 'owner',
        summary: 'Connect another database; it is tried out first',
        body: ConnectionBody,
        answers: { 201: ref('Connection') },
      },
      async (c, { body }) => c.json(await connections.create(body), 201),
    )
    .add(
      {
        method: 'put',
        path: `${path}/:id`,
        needs: 'owner',
        summary: 'Reach a database in another way; it is tried out first',
        body: ConnectionBody,
        answers: { 200: ref('Connection') },
      },
      async (c, { body }) => c.json(await connections.change(c.req.param('id')!, body)),
    )
    .add(
      {
        method: 'delete',
        path: `${path}/:id`,
        needs: 'owner',
        summary: 'Forget a database of which nothing is used',
        answers: { 204: null },
      },
      async (c) => {
        await connections.remove(c.req.param('id')!);
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/:id/tables`,
        needs: 'owner',
        summary: 'The tables and views that can be read',
        answers: { 200: listOf('RemoteTable') },
      },
      async (c) =>
        c.json(await asking(c.req.param('id')!, ({ server }) => server.read(tablesOf, c.req.raw.signal))),
    )
    .add(
      {
        method: 'get',
        path: `${path}/:id/tables/:schema/:table`,
        needs: 'owner',
        summary: 'The columns of a table, and what they are here',
        answers: { 200: ref('RemoteTableView') },
      },
      async (c) => {
        const [schema, table] = [c.req.param('schema')!, c.req.param('table')!];
        const found = await asking(c.req.param('id')!, ({ server }) =>
          server.read((client) => relationOf(client, schema, table), c.req.raw.signal),
        );
        if (!found) throw notFound('table', `${schema}.${table}`);
        const { order, ...view } = found;
        return c.json(view);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/:id/datasets`,
        needs: 'owner',
        summary: 'Make a dataset that is a name for a table',
        body: TableBody,
        answers: { 201: ref('Dataset') },
      },
      async (c, { body: { schema, table, name = table } }) => {
        const connection = c.req.param('id')!;
        const place = await connections.place(connection);
        const id = await placeTable(
          database,
          connection,
          place,
          { schema, name: table },
          name.trim(),
          c.req.raw.signal,
        );
        return c.json(await viewDataset(db, await findDataset(db, id)), 201);
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/datasets/:id/look',
        needs: { dataset: 'edit' },
        summary: 'Look again at a table in place: its columns, its rows and what they are like',
        answers: { 200: ref('Dataset') },
      },
      async (c) => {
        const dataset = await findDataset(db, c.req.param('id')!);
        const { connection, relation } = dataset;
        if (connection === null || relation === null)
          throw new HttpProblem(409, 'not-in-place', tell('connections.notInPlace', { name: dataset.name }));
        const place = await connections.place(connection);
        await lookAgain(database, place, { ...dataset, relation }, c.req.raw.signal);
        return c.json(await viewDataset(db, await findDataset(db, dataset.id)));
      },
    );
}
