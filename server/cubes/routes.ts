import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { cubeToJson } from '@sorvik/core/data/cube-json';
import { english } from '@sorvik/core/messages/locale';
import { largestAnswer } from '@sorvik/core/pipeline/cube-size';
import { listed } from '@sorvik/core/words/plural';
import { Transform, Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsIn, IsInt, IsOptional, IsString, Min } from 'class-validator';
import { LRUCache } from 'lru-cache';
import type { StoredDataset } from '../datasets/store';
import { asList } from '../http/as-list';
import { bytesOf, type Packed, packed, sendPacked } from '../http/packed';
import { HttpProblem, invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import { arrowStream } from '../sources/arrow';
import { isOnItsWay } from '../sources/copies/copies';
import { freshFor, NoFigure, OtherVersion, type Question, UnfitValues } from '../sources/source';
import type { Sources } from '../sources/sources';
import { tell } from '../tell';
import { readKept, readKey, readPartial } from './read-question';
import { type Shared, shared } from './shared';

const cacheBytes = 128 * 1024 * 1024;

const forGood = 'private, max-age=31536000, immutable';

const olderVersion = (version: number) =>
  new HttpProblem(409, 'dataset-has-changed', tell('cubes.theDatasetIsAt', { version }), {
    version,
  });

/** Refuses versions in which the dataset was another one. Since then rows came and went, which is no reason to refuse. */
function needVersion({ version }: SizeQuery, dataset: StoredDataset): void {
  if (version > dataset.version || version < dataset.shaped) throw olderVersion(dataset.version);
}

const tooMany = ({ keys }: Question) =>
  new HttpProblem(
    413,
    'too-many-combinations',
    tell('cubes.givesMoreThanCombinations', {
      n: keys.length,
      fields: listed(
        keys.map((key) => key.field),
        english,
      ),
      most: largestAnswer,
    }),
  );

/** Why a source could not answer, for whoever asked. */
function problemOf(error: unknown): HttpProblem | undefined {
  if (error instanceof OtherVersion) return olderVersion(error.version);
  if (error instanceof NoFigure)
    return invalid([{ pointer: '/aggregate', message: tell('cubes.itsTotalBecomesLarger') }]);
  if (error instanceof UnfitValues)
    return invalid([{ pointer: '/keep', message: tell('cubes.theValuesAreNot') }]);
  return undefined;
}

class SizeQuery {
  /** The dataset's version: what it says is of that one, or of one that came after it in which only rows are others. */
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
}

class CubeQuery extends SizeQuery {
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

  /** How the answer is written: Arrow IPC, or JSON for whoever has no reader of that. */
  @IsOptional()
  @IsIn(['arrow', 'json'])
  as: keyof typeof writings = 'arrow';
}

/** How a cube is written. */
const writings = {
  arrow: { type: 'application/vnd.apache.arrow.stream', write: (bytes: Uint8Array) => bytes },
  json: {
    type: 'application/json',
    write: (bytes: Uint8Array) => new TextEncoder().encode(cubeToJson(cubeFromArrow(bytes))),
  },
};

/** Aggregates of a dataset, as Arrow IPC or as JSON. */
export function addCubeRoutes(routes: Routes, sources: Sources): void {
  const cache = new LRUCache<string, Packed>({ maxSize: cacheBytes, sizeCalculation: bytesOf });
  const underWay = new Map<string, Shared<Packed>>();

  const sizes = new LRUCache<string, number>({ max: 10_000 });
  routes.add(
    {
      method: 'get',
      path: '/api/datasets/:id/cube/size',
      counts: 'question',
      needs: { dataset: 'shown' },
      summary: 'How many combinations of the keys there are: counted, or estimated where that takes long',
      query: SizeQuery,
      answers: { 200: ref('CubeSize') },
    },
    async (c, { query }) => {
      const { dataset, fields, source } = await sources.of(c.req.param('id')!);
      needVersion(query, dataset);
      const keys = query.key.map((text) => readKey(text, { fields }));
      routes.access.limits(c)?.need({ keys, partials: [] });
      const name = JSON.stringify([dataset.id, dataset.version, source.scope, keys]);
      const cells =
        sizes.get(name) ??
        (await source.combinations(keys, c.req.raw.signal).catch((error) => {
          throw problemOf(error) ?? error;
        }));
      // Once there is a copy, it is counted where it had to be estimated.
      if (isOnItsWay(sources.copies?.view(dataset)))
        return c.json({ cells }, 200, { 'cache-control': 'no-store' });
      sizes.set(name, cells);
      return c.json({ cells }, 200, { 'cache-control': forGood });
    },
  );

  routes.add(
    {
      method: 'get',
      path: '/api/datasets/:id/cube',
      counts: 'question',
      needs: { dataset: 'shown' },
      summary: 'One aggregate per combination of the keys, as Arrow IPC or JSON',
      query: CubeQuery,
      answers: { 200: 'application/vnd.apache.arrow.stream' },
    },
    async (c, { query }) => {
      const { dataset, fields, source } = await sources.of(c.req.param('id')!);
      needVersion(query, dataset);
      const question: Question = {
        keys: query.key.map((text) => readKey(text, { fields })),
        partials: query.aggregate.map((text) => readPartial(text, { fields })),
        kept: query.keep.map((text) => readKept(text, { fields })),
        limit: largestAnswer,
      };
      routes.access.limits(c)?.need(question);
      const { type, write } = writings[query.as];
      const name = JSON.stringify([dataset.id, dataset.version, source.scope, question, query.as]);
      // Rows may have come since the version that was asked for: what it says is of them all, and not kept for that version.
      const lasting = source.lasting && query.version === dataset.version;
      const make = async (signal: AbortSignal) => {
        const batch = await source.aggregate(question, signal).catch((error) => {
          throw problemOf(error) ?? error;
        });
        if (batch.numRows > largestAnswer) throw tooMany(question);
        const bytes = await packed(write(arrowStream(batch)));
        cache.set(name, bytes, source.lasting ? undefined : { ttl: freshFor });
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
      return sendPacked(c, bytes, {
        'content-type': type,
        // The version is part of the address: what it names never changes, but where its rows may.
        'cache-control': lasting ? forGood : 'no-store',
      });
    },
  );
}
