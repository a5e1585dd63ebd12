import { plainChart } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { findDataset } from '../datasets/store';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;

beforeAll(async () => {
  t = await testApp({ copies: true });
});
afterAll(() => t.close());

const catches = 'day,quay,tons\n2024-03-01,Quel,10\n2024-03-01,Ness,7.5\n2024-03-02,Quel,4\n';
const made = async (content = catches, name = 'Catches.csv') => (await t.importCsv(content, name)).dataset!;
const dataset = (id: string) => findDataset(t.database.db, id);
const rowsOf = async (id: string) => (await t.json(`/api/datasets/${id}/rows`)).body.rows as unknown[][];
const versionsOf = async (id: string) => (await t.json(`/api/datasets/${id}/versions`)).body;
const tables = async (like: string) =>
  (
    await t.database.pool.query(
      "SELECT tablename FROM pg_tables WHERE schemaname = 'data' AND tablename LIKE $1",
      [like],
    )
  ).rows.map(({ tablename }) => tablename as string);

/** Tons of all rows as a chart would ask for them. */
async function total(id: string): Promise<{ tons: number; lasting: boolean }> {
  const { version } = await dataset(id);
  const response = await t.request(`/api/datasets/${id}/cube?version=${version}&aggregate=sum.tons`);
  const { cubeFromArrow } = await import('@sorvik/core/data/cube-from-arrow');
  const cube = cubeFromArrow(new Uint8Array(await response.arrayBuffer()));
  return {
    tons: cube.partials[0]!.values[0]!,
    lasting: (response.headers.get('cache-control') ?? '').includes('immutable'),
  };
}

describe('rows that are appended', () => {
  it('come behind those that are there, and the copy has them too', async () => {
    const id = await made();
    await t.copies!.settled();
    const preview = await t.refresh(id, 'Tons,day,QUAY\n3,2024-03-03,Ness\n', 'mode=append');
    expect(preview).toMatchObject({ rows: { now: 3, in: 1, out: 0, after: 4 }, added: [], missing: [] });
    expect(await rowsOf(id)).toEqual([
      ['2024-03-01', 'Quel', 10],
      ['2024-03-01', 'Ness', 7.5],
      ['2024-03-02', 'Quel', 4],
      ['2024-03-03', 'Ness', 3],
    ]);
    expect(await total(id)).toEqual({ tons: 24.5, lasting: true });
    // It was brought up to date, not made anew.
    const found = await dataset(id);
    const { pool } = t.database;
    await pool.query(`UPDATE data.d_${found.number} SET tons = 0`);
    const fresh = await t.request(`/api/datasets/${id}/cube?version=${found.version}&aggregate=max.tons`);
    const { cubeFromArrow } = await import('@sorvik/core/data/cube-from-arrow');
    expect(cubeFromArrow(new Uint8Array(await fresh.arrayBuffer())).partials[0]!.values[0]).toBe(10);
  });

  it('keep the types of the fields: what does not fit is set aside', async () => {
    const id = await made();
    const preview = await t.refresh(
      id,
      'day,quay,tons\n2024-03-03,Quel,many\n2024-03-04,7,2\n',
      'mode=append',
    );
    expect(preview).toMatchObject({ rows: { in: 1 }, rejected: 1, retyped: [] });
    expect((await t.json(`/api/datasets/${id}/rejects`)).body.rejects).toMatchObject([
      { line: 2, column: 'tons', cells: ['2024-03-03', 'Quel', 'many'] },
    ]);
    expect((await rowsOf(id)).at(-1)).toEqual(['2024-03-04', '7', 2]);
  });

  it('bring new fields with them, and have nothing in those that they lack', async () => {
    const id = await made();
    const preview = await t.refresh(id, 'day,tons,Skipper\n2024-03-03,3,Ada\n', 'mode=append');
    expect(preview).toMatchObject({ added: ['Skipper'], missing: [{ name: 'quay' }] });
    expect((await rowsOf(id)).slice(2)).toEqual([
      ['2024-03-02', 'Quel', 4, null],
      ['2024-03-03', null, 3, 'Ada'],
    ]);
    expect((await total(id)).tons).toBe(24.5);
  });

  it('have the computed fields computed', async () => {
    const id = await made();
    await t.send('POST', `/api/datasets/${id}/fields`, { name: 'Kilos', formula: 'tons * 1000' });
    await t.send('POST', `/api/datasets/${id}/fields`, { name: 'Grams', formula: 'kilos * 1000' });
    await t.refresh(id, 'day,quay,tons\n2024-03-03,Ness,3\n', 'mode=append');
    expect((await rowsOf(id)).at(-1)).toEqual(['2024-03-03', 'Ness', 3, 3000, 3_000_000]);
    // What was computed comes along where a file was downloaded here: it is no field besides.
    const along = await t.refresh(id, 'day,quay,tons,Kilos\n2024-03-03,Ness,3,1\n', 'mode=append');
    expect(along.added).toEqual([]);
    expect((await rowsOf(id)).at(-1)).toEqual(['2024-03-03', 'Ness', 3, 3000, 3_000_000]);
    await t.refresh(id, 'day,quay,tons,kilos\n2024-03-03,Ness,5,1\n', 'mode=replace');
    expect(await rowsOf(id)).toEqual([['2024-03-03', 'Ness', 5, 5000, 5_000_000]]);
  });

  it('are read as the file before was: nothing is asked twice', async () => {
    const first = await t.upload('Dates.csv', 'day,n\n03/04/2024,1\n');
    await t.send('POST', `/api/imports/${first.body.id}/answers`, { answers: { day: 'mdy' } });
    const id = (await t.settled(first.body.id)).dataset!;
    await t.refresh(id, 'day,n\n05/06/2024,2\n', 'mode=append');
    expect(await rowsOf(id)).toEqual([
      ['2024-03-04', 1],
      ['2024-05-06', 2],
    ]);
  });
});

describe('rows that take the place of those with the same key', () => {
  it('leave all others alone; the same key may be on several rows', async () => {
    const id = await made();
    await t.copies!.settled();
    const preview = await t.refresh(
      id,
      'day,quay,tons\n2024-03-01,Quel,1\n2024-03-04,Quel,2\n,Quel,9\n',
      'mode=merge&by=day',
    );
    expect(preview).toMatchObject({ rows: { now: 3, in: 2, out: 2, after: 3 }, rejected: 1 });
    expect(await rowsOf(id)).toEqual([
      ['2024-03-02', 'Quel', 4],
      ['2024-03-01', 'Quel', 1],
      ['2024-03-04', 'Quel', 2],
    ]);
    expect((await total(id)).tons).toBe(7);
    // A page of rows is found though places are empty.
    expect((await t.json(`/api/datasets/${id}/rows?offset=1&limit=1`)).body.rows).toEqual([
      ['2024-03-01', 'Quel', 1],
    ]);
  });

  it('need the key', async () => {
    const id = await made();
    await expect(t.stage(id, 'quay,tons\nQuel,1\n', 'mode=merge&by=day')).rejects.toThrow(/no column day/);
    await expect(t.stage(id, catches, 'mode=merge&by=nothing')).rejects.toThrow(
      /by which field.*day, quay, tons/,
    );
    await expect(t.stage(id, catches, 'mode=merge')).rejects.toThrow(/by which field/);
  });
});

describe('rows that replace all', () => {
  it('may bring other fields and types; names and keys that are known stay', async () => {
    const id = await made();
    await t.send('PATCH', `/api/datasets/${id}/fields/quay`, { name: 'Landing' });
    const preview = await t.refresh(id, 'landing,tons,crew\nQuel,a lot,3\nNess,little,4\n');
    expect(preview).toMatchObject({
      rows: { now: 3, in: 2, out: 3, after: 2 },
      added: ['crew'],
      missing: [{ name: 'day' }],
      retyped: [{ name: 'tons', from: 'decimal', to: 'text' }],
    });
    const { body } = await t.json(`/api/datasets/${id}`);
    expect(
      body.fields.map(({ key, name, type }: { key: string; name: string; type: string }) => [
        key,
        name,
        type,
      ]),
    ).toEqual([
      ['quay', 'Landing', 'text'],
      ['tons', 'tons', 'text'],
      ['crew', 'crew', 'integer'],
    ]);
    expect(body.source.file).toBe('More.csv');
  });

  it('say which boards and sentences that reaches, and what is new', async () => {
    const id = await made();
    const board = {
      version: 1,
      title: 'Landings by quay',
      levers: [],
      charts: [plainChart(id, { by: { field: 'quay' } })],
    };
    const saved = await t.send('POST', '/api/boards', { document: board });
    expect(saved.status, JSON.stringify(saved.body)).toBe(201);
    const gone = await t.stage(id, 'day,tons\n2024-03-03,2\n');
    expect(gone.preview.missing).toMatchObject([
      {
        name: 'quay',
        reach: [
          {
            title: 'Landings by quay',
            lines: expect.arrayContaining([expect.stringContaining('Shows bars of')]),
          },
        ],
      },
    ]);
    const fresh = await t.stage(id, 'day,quay,tons\n2024-03-03,Brim,2\n2024-03-03,Quel,2\n', 'mode=append');
    expect(fresh.preview.values).toMatchObject([
      { name: 'quay', count: 1, examples: ['Brim'], reach: [{ title: 'Landings by quay' }] },
    ]);
  });

  it('are refused where a computed field needs what they lack, and nothing has changed', async () => {
    const id = await made();
    await t.send('POST', `/api/datasets/${id}/fields`, { name: 'Kilos', formula: 'tons * 1000' });
    const before = await dataset(id);
    const { id: job, preview } = await t.stage(id, 'day,quay\n2024-03-03,Quel\n');
    expect(preview.refused).toContain('Kilos');
    const taken = await t.send('POST', `/api/imports/${job}/take`);
    expect([taken.status, taken.body.detail]).toEqual([409, expect.stringContaining('Kilos')]);
    expect(await dataset(id)).toEqual(before);
    expect(await rowsOf(id)).toHaveLength(3);
    // They still wait, until they are given up.
    expect((await t.json(`/api/imports/${job}`)).body.state).toBe('staged');
    await t.send('DELETE', `/api/imports/${job}`);
    expect(await tables('d_%')).not.toContain(`d_${before.number + 1}`);
  });
});

describe('versions of rows', () => {
  it('are gone back to within a table, and forward again', async () => {
    const id = await made();
    const first = await rowsOf(id);
    await t.refresh(id, 'day,quay,tons\n2024-03-03,Ness,3\n', 'mode=append');
    await t.refresh(id, 'day,quay,tons\n2024-03-01,Ness,100\n', 'mode=merge&by=day');
    const last = await rowsOf(id);
    const versions = await versionsOf(id);
    expect(
      versions.map(({ seq, kind, rows, rowsIn, rowsOut }: Record<string, unknown>) => [
        seq,
        kind,
        rows,
        rowsIn,
        rowsOut,
      ]),
    ).toEqual([
      [3, 'merge', 3, 1, 2],
      [2, 'append', 4, 1, 0],
      [1, 'import', 3, 3, 0],
    ]);
    const sorted = (rows: unknown[][]) => rows.map((row) => JSON.stringify(row)).sort();
    const back = await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 1 });
    expect(back.status, JSON.stringify(back.body)).toBe(200);
    expect(sorted(await rowsOf(id))).toEqual(sorted(first));
    expect((await total(id)).tons).toBe(21.5);
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 3 });
    expect(sorted(await rowsOf(id))).toEqual(sorted(last));
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 2 });
    expect((await total(id)).tons).toBe(24.5);
    expect(await versionsOf(id)).toHaveLength(6);
    const { body } = await t.json(`/api/datasets/${id}/versions/changes?from=2&to=3`);
    expect(body).toEqual({
      fields: ['day', 'quay', 'tons'],
      added: { count: 1, rows: [['2024-03-01', 'Ness', 100]] },
      removed: { count: 2, rows: expect.arrayContaining([['2024-03-01', 'Quel', 10]]) },
    });
  });

  it('are gone back to across tables, with the fields of then and the computed ones of today', async () => {
    const id = await made();
    await t.refresh(id, 'day,quay,tons\n2024-03-03,Ness,3\n', 'mode=append');
    await t.refresh(id, 'day,tons,crew\n2024-05-01,1,3\n');
    await t.send('POST', `/api/datasets/${id}/fields`, { name: 'Kilos', formula: 'tons * 1000' });
    const back = await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 1 });
    expect(back.status, JSON.stringify(back.body)).toBe(200);
    expect(await rowsOf(id)).toEqual([
      ['2024-03-01', 'Quel', 10, 10_000],
      ['2024-03-01', 'Ness', 7.5, 7500],
      ['2024-03-02', 'Quel', 4, 4000],
    ]);
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 3 });
    expect(await rowsOf(id)).toEqual([['2024-05-01', 1, 3, 1000]]);
    expect(
      (await t.json(`/api/datasets/${id}`)).body.fields.map(({ name }: { name: string }) => name),
    ).toEqual(['day', 'tons', 'crew', 'Kilos']);
    // What changed is told in the fields that both have.
    const { body } = await t.json(`/api/datasets/${id}/versions/changes?from=2&to=3`);
    expect(body).toMatchObject({
      fields: ['day', 'tons', 'Kilos'],
      added: { count: 1 },
      removed: { count: 4 },
    });
  });

  it('keep up with a retype: what was taken away comes back as the new type', async () => {
    const id = await made();
    await t.refresh(id, 'day,quay,tons\n2024-03-01,Ness,100\n', 'mode=merge&by=day');
    await t.send('POST', `/api/datasets/${id}/fields/tons/retype`, { type: 'text' });
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 1 });
    expect((await rowsOf(id)).map((row) => row[2]).sort()).toEqual(['10', '4', '7.5']);
  });

  it('go after the last five, but for the last of each month; their tables go with them', async () => {
    const id = await made();
    const { number } = await dataset(id);
    await t.database.pool.query(
      "UPDATE sorvik.dataset_versions SET at = now() - interval '70 days' WHERE dataset = $1",
      [id],
    );
    for (let i = 0; i < 8; i++) await t.refresh(id, `day,quay,tons\n2024-03-03,Ness,${i}\n`);
    const kept = await versionsOf(id);
    expect(kept.map(({ seq }: { seq: number }) => seq)).toEqual([9, 8, 7, 6, 5, 4, 1]);
    expect(await tables(`d_${number}`)).toHaveLength(1);
    await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 1 });
    expect(await rowsOf(id)).toHaveLength(3);
    expect((await t.send('POST', `/api/datasets/${id}/versions/back`, { version: 2 })).status).toBe(404);
  });

  it('go with their dataset', async () => {
    const id = await made();
    const { number } = await dataset(id);
    await t.refresh(id, catches);
    await t.refresh(id, catches, 'mode=merge&by=day');
    const after = (await dataset(id)).number;
    await t.send('DELETE', `/api/datasets/${id}`);
    await t.send('DELETE', `/api/deleted-datasets/${id}`);
    const left = await tables('d_%');
    expect(left.filter((name) => [`d_${number}`, `d_${after}`, `d_${after}_past`].includes(name))).toEqual(
      [],
    );
  });
});

it('takes the rows of one file once, whoever else tries', async () => {
  const id = await made();
  const { id: job } = await t.stage(id, catches, 'mode=append');
  const taken = await Promise.all([1, 2, 3].map(() => t.send('POST', `/api/imports/${job}/take`)));
  expect(taken.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
  expect((await dataset(id)).rows).toBe(6);
});

it('answers for older versions in which only rows were others, and for no others', async () => {
  const id = await made();
  const { version } = await dataset(id);
  await t.refresh(id, 'day,quay,tons\n2024-03-03,Ness,3\n', 'mode=append');
  const asked = await t.request(`/api/datasets/${id}/cube?version=${version}&aggregate=count`);
  expect([asked.status, asked.headers.get('cache-control')]).toEqual([200, 'no-store']);
  await t.refresh(id, catches);
  expect((await t.request(`/api/datasets/${id}/cube?version=${version}&aggregate=count`)).status).toBe(409);
});
