import { existsSync, readdirSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { fieldsOf, findDataset, type StoredDataset } from '../../datasets/store';
import { failureOf } from '../../db/failure';
import { type TestApp, testApp } from '../../testing/test-app';
import { TableSource } from '../postgres/table-source';
import { Copies } from './copies';
import { Engine, TookTooLong } from './engine';

let t: TestApp;
let folder: string;
let id: string;

const csv = (rows: number) =>
  `quay,berth,tons\n${Array.from({ length: rows }, (_, i) => `Q${i % 7},${i % 3},${i / 4}`).join('\n')}\n`;

beforeAll(async () => {
  t = await testApp({ copies: true });
  folder = join(t.spool, 'copies');
  id = (await t.importCsv(csv(700), 'Landings.csv')).dataset!;
  await t.copies!.settled();
});
afterAll(() => t.close());

const dataset = (): Promise<StoredDataset> => findDataset(t.database.db, id);
const fileOf = async () => join(folder, `d_${(await dataset()).number}.duckdb`);
const stateOf = async () => t.copies!.view(await dataset()).state;

/** Tons by quay, by way of the interface. */
async function tons(): Promise<Record<string, number>> {
  const { version } = await dataset();
  // A question of its own each time: what was answered is kept.
  const query = `version=${version}&key=quay&aggregate=sum.tons&keep=${encodeURIComponent(JSON.stringify({ field: 'berth', ranges: [[-1 - Math.random(), 9]] }))}`;
  const response = await t.request(`/api/datasets/${id}/cube?${query.replace('berth', 'tons')}`);
  expect(response.status, await response.clone().text()).toBe(200);
  const cube = cubeFromArrow(new Uint8Array(await response.arrayBuffer()));
  const [quay] = cube.dimensions;
  return Object.fromEntries(
    Array.from({ length: cube.cells }, (_, i) => [
      quay!.values[quay!.codes[i]!]!,
      cube.partials[0]!.values[i]!,
    ]),
  );
}

/** A manager over the same files, as after a start. */
async function started<T>(work: (copies: Copies) => Promise<T>): Promise<T> {
  const options = { folder, threads: 1, memory: 256 * 1024 * 1024, fewestRows: 0 };
  const copies = await Copies.open(t.database, options, pino({ level: 'silent' }));
  try {
    return await work(copies);
  } finally {
    await copies.close();
  }
}

describe('a column copy', () => {
  it('is made after an import, and the dataset says so', async () => {
    expect(await stateOf()).toBe('ready');
    expect(existsSync(await fileOf())).toBe(true);
    expect((await t.json(`/api/datasets/${id}`)).body.copy).toEqual({ state: 'ready' });
  });

  it('answers instead of PostgreSQL', async () => {
    const { body } = await t.json(`/api/datasets/${id}/rows?limit=1`);
    expect(body.rows).toEqual([['Q0', 0, 0]]);
    const found = await dataset();
    // What only PostgreSQL holds is not seen: the copy was asked.
    await t.database.pool.query(`UPDATE data.d_${found.number} SET quay = 'elsewhere'`);
    expect(Object.keys(await tons()).sort()).toEqual(['Q0', 'Q1', 'Q2', 'Q3', 'Q4', 'Q5', 'Q6']);
    await t.database.pool.query(`UPDATE data.d_${found.number} SET quay = 'Q' || mod("#place", 7)`);
  });

  it('is found again at the next start, without being made again', async () => {
    const found = await dataset();
    await started(async (copies) => expect(copies.view(found)).toEqual({ state: 'ready' }));
  });

  it('that is not of a dataset any more goes at the next start, and so does what is half made', async () => {
    const strays = ['d_98765.duckdb', 'd_1.duckdb.part', 'd_1.duckdb.part.0.csv'].map((name) =>
      join(folder, name),
    );
    for (const stray of strays) writeFileSync(stray, 'half');
    await started(async () => {});
    expect(strays.filter((stray) => existsSync(stray))).toEqual([]);
  });

  it.each([
    ['cut off', (file: string) => truncateSync(file, 5000)],
    ['something else', (file: string) => writeFileSync(file, 'not a copy')],
    ['gone', (file: string) => rmSync(file)],
  ])('that is %s at the start is made again', async (_what, damage) => {
    const found = await dataset();
    damage(await fileOf());
    await started(async (copies) => {
      await copies.settled();
      expect(copies.view(found)).toEqual({ state: 'ready' });
    });
    expect(existsSync(await fileOf())).toBe(true);
  });

  it('that is deleted while it is used is noticed: PostgreSQL answers, and it is made again', async () => {
    const before = await tons();
    rmSync(await fileOf());
    expect(await tons()).toEqual(before);
    await t.copies!.settled();
    expect(await stateOf()).toBe('ready');
    expect(existsSync(await fileOf())).toBe(true);
  });

  it('is of the rows as they are: a computed field, a retype, each makes another one', async () => {
    const { body } = await t.send('POST', `/api/datasets/${id}/fields`, {
      name: 'Double',
      formula: 'tons * 2',
    });
    expect(body.fields).toHaveLength(4);
    const { version } = await dataset();
    const response = await t.request(`/api/datasets/${id}/cube?version=${version}&aggregate=sum.double`);
    const total = cubeFromArrow(new Uint8Array(await response.arrayBuffer())).partials[0]!.values[0];
    expect(total).toBe(((699 * 700) / 2 / 4) * 2);
    await t.copies!.settled();
    expect(await stateOf()).toBe('ready');
    await t.send('POST', `/api/datasets/${id}/fields/berth/retype`, { type: 'text' });
    expect(
      (await t.json(`/api/datasets/${id}/fields/berth/values`)).body.values.map(
        (each: { value: string }) => each.value,
      ),
    ).toEqual(['0', '1', '2']);
    await t.copies!.settled();
    expect(await stateOf()).toBe('ready');
    expect(readdirSync(folder).filter((name) => name.endsWith('.duckdb'))).toHaveLength(1);
  });

  it('is given up where the disk is full; the dataset is not', async () => {
    const room = vi
      .spyOn(t.database.room, 'ensureNow')
      .mockRejectedValue(Object.assign(new Error('full'), { code: 'ENOSPC' }));
    rmSync(await fileOf());
    const before = await tons();
    await t.copies!.settled();
    expect(await stateOf()).toBe('failed');
    expect(await tons()).toEqual(before);
    room.mockRestore();
    expect(readdirSync(folder).filter((name) => /part|csv/.test(name))).toEqual([]);
  });

  it('is not made of few rows', async () => {
    const options = {
      folder: join(t.spool, 'other'),
      threads: 1,
      memory: 256 * 1024 * 1024,
      fewestRows: 701,
    };
    const copies = await Copies.open(t.database, options, pino({ level: 'silent' }));
    await copies.settled();
    expect(copies.view(await dataset())).toEqual({ state: 'none' });
    await copies.close();
  });
});

it('what takes too long in the column store is broken off, and answered as if the database had done so', async () => {
  const engine = await Engine.open(join(t.spool, 'engine'), { threads: 1, memory: 128 * 1024 * 1024 });
  const endless = 'SELECT count(*) FROM range(100000000000) AS a(i) WHERE i % 7 = 3';
  const asked = engine.on((connection) => connection.runAndReadAll(endless), undefined, 50);
  await expect(asked).rejects.toBeInstanceOf(TookTooLong);
  expect(failureOf(new TookTooLong())).toBe('too long');
  const gone = new AbortController();
  const other = engine.ask(endless, [], gone.signal);
  setTimeout(() => gone.abort(), 50);
  await expect(other).rejects.toThrow(/INTERRUPT/i);
  engine.close();
});

it.each([
  ['what was sent to the database', ''],
  ['the table, where something was written otherwise than it is', 'back\\slash'],
])('a copy is made of %s, and has the same rows', async (_of, text) => {
  const spellings = ['5.', '-0', '12.50', '-3.25', '0.1', '123456789012.5', ''];
  const line = (i: number) =>
    [
      `Quay ${i % 5} "${text}" – 🚢`.replaceAll('"', i % 7 ? "'" : ''),
      i % 11 ? i - 40 : '',
      spellings[i % spellings.length],
      `20${10 + (i % 14)}-0${1 + (i % 9)}-1${i % 9}`,
      `2024-02-28 1${i % 9}:30:0${i % 9}`,
      i % 2 ? 'yes' : 'no',
    ].join(',');
  const { dataset: made } = await t.importCsv(
    `name,n,figure,day,moment,open\n${Array.from({ length: 400 }, (_, i) => line(i)).join('\n')}\n`,
    'Spellings.csv',
  );
  await t.copies!.settled();
  const stored = await findDataset(t.database.db, made!);
  const fields = await fieldsOf(t.database.db, made!);
  expect(fields.map(({ type }) => type)).toEqual([
    'text',
    'integer',
    'decimal',
    'date',
    'datetime',
    'boolean',
  ]);
  const copy = t.copies!.of(stored, fields, null)!;
  const table = new TableSource(t.database, { ...stored, fields });
  expect(await copy.rows(0, 400)).toEqual(await table.rows(0, 400));
  expect(readdirSync(t.spool).filter((name) => name.endsWith('.lines'))).toEqual([]);
});
