import type { CubeRequest } from '@sorvik/core/data/cube';
import { fieldOf } from '@sorvik/core/data/dataset';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { Transform, Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsInt, IsOptional, IsString, Min } from 'class-validator';
import { LRUCache } from 'lru-cache';
import { reading } from '../datasets/locked';
import { fieldsOf, findDataset } from '../datasets/store';
import { badData, type Database, numericOverflow, tableOf } from '../db/client';
import { asList } from '../http/as-list';
import { HttpProblem, invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { tell } from '../tell';
import { cubeToArrow } from './arrow';
import { cubeSql, readKept, readKey, readPartial } from './plan';
import { type Shared, shared } from './shared';

/** Cells of the largest cube that travels to a browser: rolling it up keeps the page busy for under 50 ms. */
export const maxCells = 250_000;
const cacheBytes = 128 * 1024 * 1024;

const olderVersion = (version: number) =>
  new HttpProblem(409, 'dataset-has-changed', tell('cubes.theDatasetIsAt', { version }), {
    version,
  });

class CubeQuery {
  /** The dataset's version: a cube of another version is never handed out for it. */
  @Type(() => Number)
  @IsInt()
  @Min(1)
  version!: number;

  @IsOptional()
  @Transform(asList)
  @IsArray()
  @ArrayMaxSize(8)
  @IsString({ each: true })
  key: string[] = [];

  @Transform(asList)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(40)
  @IsString({ each: true })
  aggregate!: string[];

  /** Which rows: `{"field":"route","values":["Quel"]}`, or `"ranges"` of pairs. */
  @IsOptional()
  @Transform(asList)
  @IsArray()
  @ArrayMaxSize(20)
  @IsString({ each: true })
  keep: string[] = [];
}

/** Aggregates of a dataset, as Arrow IPC. */
export function addCubeRoutes(routes: Routes, database: Database): void {
  const { db } = database;
  const cache = new LRUCache<string, Uint8Array>({
    maxSize: cacheBytes,
    sizeCalculation: (bytes) => bytes.byteLength + 1,
  });
  const underWay = new Map<string, Shared>();

  routes.add(
    {
      method: 'get',
      path: '/api/datasets/:id/cube',
      summary: 'One aggregate per combination of the keys, as Arrow IPC',
      query: CubeQuery,
      answers: { 200: 'application/vnd.apache.arrow.stream' },
    },
    async (c, { query }) => {
      const dataset = await findDataset(db, c.req.param('id')!);
      if (query.version !== dataset.version) throw olderVersion(dataset.version);
      const info = { fields: await fieldsOf(db, dataset.id) };
      const request: CubeRequest = {
        keys: query.key.map((text) => readKey(text, info)),
        partials: query.aggregate.map((text) => readPartial(text, info)),
      };
      const kept = query.keep.map((text) => readKept(text, info));
      const name = JSON.stringify([dataset.id, dataset.version, request, kept]);
      const ask = (guarded: boolean, signal: AbortSignal) =>
        reading(
          database,
          dataset.id,
          ({ client, dataset: now }) => {
            if (now.version !== dataset.version) throw olderVersion(now.version);
            return client.query({
              ...cubeSql(request, tableOf(now.number), maxCells + 1, info.fields, kept, guarded),
              rowMode: 'array',
            });
          },
          { signal },
        );
      const make = async (signal: AbortSignal) => {
        const { rows } = await ask(false, signal)
          // In some row an expression has no result: there it is null.
          .catch((error: { code?: string }) => {
            if (error.code?.startsWith(badData)) return ask(true, signal);
            throw error;
          })
          .catch((error: { code?: string }) => {
            if (error.code === numericOverflow)
              throw invalid([{ pointer: '/aggregate', message: tell('cubes.itsTotalBecomesLarger') }]);
            // What is kept is not of the field's type.
            if (kept.length && error.code?.startsWith(badData))
              throw invalid([{ pointer: '/keep', message: tell('cubes.theValuesAreNot') }]);
            throw error;
          });
        if (rows.length > maxCells)
          throw new HttpProblem(
            413,
            'too-many-combinations',
            tell('cubes.givesMoreThanCombinations', {
              n: request.keys.length,
              fields: listed(
                request.keys.map((key) => key.field),
                english,
              ),
              most: maxCells,
            }),
          );
        const types = request.keys.map((key) =>
          key.grain ? 'date' : fieldOf(info as never, key.field)!.type,
        );
        const bytes = cubeToArrow(rows, request, types);
        cache.set(name, bytes);
        return bytes;
      };
      let bytes = cache.get(name);
      if (!bytes) {
        let running = underWay.get(name);
        if (!running) {
          running = shared(make, () => underWay.delete(name));
          underWay.set(name, running);
        }
        bytes = await running.wait(c.req.raw.signal);
      }
      return c.body(bytes as Uint8Array<ArrayBuffer>, 200, {
        'content-type': 'application/vnd.apache.arrow.stream',
        // The version is part of the address: what it names never changes.
        'cache-control': 'private, max-age=31536000, immutable',
      });
    },
  );
}
