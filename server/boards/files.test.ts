import { Buffer } from 'node:buffer';
import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ZipFile } from 'yazl';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let dataset: string;
let board: string;
const csv =
  'Quay,On,Open,People,Note\nQuel,2021-01-01,yes,10,"a ""word"", and more"\nHarl,2021-02-01,no,,\nQuel,2021-02-03,yes,0.1,äö – ✓\n';

const documentOf = (id: string) => ({
  version: 1,
  title: 'Quays',
  levers: [plainPick(id, 'quay', 'quays', 'Quays')],
  charts: [
    plainChart(id, {
      by: { field: 'on', grain: 'month' },
      measure: { aggregate: 'formula', text: 'SUM(double) FILTER (WHERE open) + COUNT(people)' },
      cues: [plainCue('filter', 'quays')],
    }),
  ],
});

beforeAll(async () => {
  t = await testApp();
  dataset = (await t.importCsv(csv, 'Quays of old.csv')).dataset!;
  await t.send('POST', `/api/datasets/${dataset}/fields`, { name: 'Double', formula: 'people * 2' });
  board = (await t.send('POST', '/api/boards', { document: documentOf(dataset) })).body.id;
});
afterAll(() => t.close());

const exported = async () => (await t.json(`/api/boards/${board}/file`)).body;
const counts = async () => ({
  boards: (await t.json('/api/boards')).body.length,
  datasets: (await t.json('/api/datasets')).body.length,
});
const rowsOf = async (id: string) => (await t.json(`/api/datasets/${id}/rows`)).body.rows;

describe('a board as a file', () => {
  it('holds the document and what its datasets are', async () => {
    const response = await t.request(`/api/boards/${board}/file`);
    expect(response.headers.get('content-disposition')).toBe('attachment; filename="quays.sorvik.json"');
    const file = JSON.parse(await response.text());
    expect(file).toMatchObject({ sorvik: 'board', version: 1, document: documentOf(dataset) });
    expect(file.datasets).toEqual([
      {
        id: 'quays-of-old',
        name: 'Quays of old',
        fields: [
          { key: 'quay', name: 'Quay', type: 'text' },
          { key: 'on', name: 'On', type: 'date' },
          { key: 'open', name: 'Open', type: 'boolean' },
          { key: 'people', name: 'People', type: 'decimal' },
          { key: 'note', name: 'Note', type: 'text' },
          { key: 'double', name: 'Double', type: 'decimal', formula: 'people * 2' },
        ],
      },
    ]);
  });

  it('says what it needs, and where that is here', async () => {
    const other = (await t.importCsv('Pier,On,Open,Folk\nx,2021-01-01,yes,2\n', 'Piers.csv')).dataset!;
    const { body } = await t.send('POST', '/api/board-files/needs', { file: await exported() });
    expect(body.title).toBe('Quays');
    expect(body.needs).toHaveLength(1);
    const [need] = body.needs;
    expect(need.fields.map(({ key }: { key: string }) => key)).toEqual([
      'quay',
      'on',
      'open',
      'people',
      'double',
    ]);
    expect(need.dataset).toBe(dataset);
    expect(need.found[other]).toEqual({ on: 'on', open: 'open' });
  });

  it('is kept with other fields in the places of its own, in formulas too', async () => {
    const other = (
      await t.importCsv('Pier,On,Open,Order\nx,2021-01-01,yes,2\ny,2021-01-02,no,3\n', 'Orders.csv')
    ).dataset!;
    const file = await exported();
    const fields = { quay: 'pier', on: 'on', open: 'open', people: 'order', double: 'order' };
    const made = await t.send('POST', '/api/board-files', {
      file,
      datasets: { [dataset]: { dataset: other, fields } },
    });
    expect(made.status).toBe(201);
    const { levers, charts } = made.body.document;
    expect(levers[0]).toMatchObject({ dataset: other, field: 'pier' });
    expect(charts[0].dataset).toBe(other);
    // "order" is a word of SQL, so it stands in quotes.
    expect(charts[0].measure.text).toBe('SUM("order") FILTER (WHERE open) + COUNT("order")');
    const missing = await t.send('POST', '/api/board-files', { file, datasets: {} });
    expect(missing.body.detail).toContain('name a dataset that stands for it here');
    const wrong = await t.send('POST', '/api/board-files', {
      file,
      datasets: { [dataset]: { dataset: other, fields: { quay: 'nope' } } },
    });
    expect(wrong.body.detail).toContain('there is no field "nope" in Orders');
  });

  it('is refused with the reason, and nothing is changed', async () => {
    const file = await exported();
    const before = await counts();
    const deep = JSON.parse(`${'['.repeat(60)}${']'.repeat(60)}`);
    const wrong: [unknown, string][] = [
      [{ ...file, sorvik: 'chart' }, 'This JSON file is not a Sorvik board.'],
      [{ ...file, version: 9 }, 'was made by a newer Sorvik'],
      [{ ...file, document: { ...file.document, version: 7 } }, 'version is 7, from a newer Sorvik'],
      [{ ...file, document: { ...file.document, charts: 'none' } }, '/charts'.slice(1)],
      [{ ...file, document: deep }, 'a board is a JSON object'],
      [{ ...file, document: { ...file.document, levers: [deep] } }, 'nested too deeply'],
      [{ ...file, more: 1 }, 'more'],
      [{ ...file, datasets: [{ id: '../../etc', name: 'x', fields: [] }] }, 'lower-case letters'],
      [
        {
          ...file,
          datasets: [{ id: 'x', name: 'x', fields: [{ key: 'a"; DROP', name: 'a', type: 'text' }] }],
        },
        'lasting name',
      ],
      [[], 'file must be an object'],
      [{ ...file, document: [] }, 'a board is a JSON object'],
    ];
    for (const [input, says] of wrong) {
      const { status, body } = await t.send('POST', '/api/board-files/needs', { file: input });
      expect([says, status]).toEqual([says, 422]);
      expect(body.detail).toContain(says);
    }
    const huge = await t.send('POST', '/api/board-files/needs', { file: { text: 'x'.repeat(5_000_000) } });
    expect(huge.status).toBe(413);
    expect(await counts()).toEqual(before);
  });

  it('keeps a name with a script in it as a text', async () => {
    const file = await exported();
    const title = '<script>alert(1)</script>';
    const made = await t.send('POST', '/api/board-files', {
      file: { ...file, document: { ...file.document, title } },
      datasets: { [dataset]: { dataset, fields: {} } },
    });
    expect(made.body.document.title).toBe(title);
    expect(made.body.id).toBe('script-alert-1-script');
  });
});

const zipped = async (id = board) =>
  Buffer.from(await (await t.request(`/api/boards/${id}/file?data=true`)).arrayBuffer());
const sendZip = (bytes: Uint8Array) =>
  t.json('/api/board-files/zip', { method: 'POST', body: bytes as BodyInit });
const zipOf = async (parts: Record<string, string>): Promise<Buffer> => {
  const zip = new ZipFile();
  for (const [name, text] of Object.entries(parts)) zip.addBuffer(Buffer.from(text), name);
  zip.end();
  const pieces: Buffer[] = [];
  for await (const piece of zip.outputStream) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
};

describe('a board with its data', () => {
  it('comes back as it went, computed fields and all', async () => {
    const made = await sendZip(await zipped());
    expect(made.status, JSON.stringify(made.body)).toBe(201);
    const copy = made.body.document.charts[0].dataset;
    expect(copy).not.toBe(dataset);
    expect(await rowsOf(copy)).toEqual(await rowsOf(dataset));
    expect((await rowsOf(copy))[2]).toEqual(['Quel', '2021-02-03', true, 0.1, 'äö – ✓', 0.2]);
    expect(made.body.document).toEqual({
      ...documentOf(copy),
    });
    const { fields } = (await t.json(`/api/datasets/${copy}`)).body;
    expect(fields.at(-1)).toMatchObject({ key: 'double', formula: 'people * 2' });
  });

  it('describes its data as a data package', async () => {
    const bytes = await zipped();
    const { unpack } = await import('./file-zip');
    const { Readable } = await import('node:stream');
    const zip = await unpack(t.spool, t.database.room, Readable.from([bytes]));
    expect(zip.names).toEqual(['board.json', 'datapackage.json', 'data/quays-of-old.csv']);
    const described = (await zip.json('datapackage.json')) as {
      resources: { path: string; schema: object }[];
    };
    expect(described).toMatchObject({ profile: 'tabular-data-package', name: 'quays', title: 'Quays' });
    expect(described.resources[0]!.path).toBe('data/quays-of-old.csv');
    expect(described.resources[0]!.schema).toEqual({
      fields: [
        { name: 'Quay', type: 'string' },
        { name: 'On', type: 'date' },
        { name: 'Open', type: 'boolean' },
        { name: 'People', type: 'number' },
        { name: 'Note', type: 'string' },
      ],
      missingValues: [''],
    });
    await zip.close();
  });

  it('gives its connection back when nobody waits for it any more', async () => {
    const rows = Array.from({ length: 80_000 }, (_, i) => `${i},${(i * 7919) % 99_991},text ${i * 31}`);
    const large = (await t.importCsv(`a,b,c\n${rows.join('\n')}\n`, 'Large.csv')).dataset!;
    const chart = {
      ...documentOf(large).charts[0],
      by: { field: 'c' },
      measure: { aggregate: 'count' },
      cues: [],
    };
    const document = { version: 1, title: 'Large', levers: [], charts: [chart] };
    const { id } = (await t.send('POST', '/api/boards', { document })).body;
    const response = await t.request(`/api/boards/${id}/file?data=true`);
    const reader = response.body!.getReader();
    await reader.read();
    await reader.cancel();
    const { pool } = t.database;
    await expect.poll(() => pool.totalCount - pool.idleCount).toBe(0);
    expect((await zipped(id)).byteLength).toBeGreaterThan(300_000);
  });

  it('is refused wherever a byte of it is another one, or it ends too early', async () => {
    const before = await counts();
    const good = await zipped();
    const answers = new Set<number>();
    for (let at = 0; at < good.length; at += Math.ceil(good.length / 60)) {
      const bytes = Buffer.from(good);
      bytes[at] = bytes[at]! ^ 0xff;
      answers.add((await sendZip(bytes)).status);
      answers.add((await sendZip(good.subarray(0, at))).status);
    }
    // A time or a name's flag may differ and harm nothing; what is taken in then is what was sent.
    expect([...answers].sort()).toEqual([201, 422]);
    for (const { id, name } of (await t.json('/api/datasets')).body)
      if (String(name).startsWith('Quays of old') && id !== dataset)
        expect(await rowsOf(id)).toEqual(await rowsOf(dataset));
    expect((await counts()).boards).toBeGreaterThanOrEqual(before.boards);
  });

  it('that is locked with a password says so', async () => {
    const bytes = Buffer.from(await zipOf({ 'board.json': '{}' }));
    // The flag of a part that is encrypted, in its own head and in the list at the end.
    bytes[6]! |= 1;
    const list = bytes.indexOf(Buffer.from('PK\x01\x02', 'latin1'));
    bytes[list + 8]! |= 1;
    const { status, body } = await sendZip(bytes);
    expect(status).toBe(422);
    expect(body.detail).toMatch(/encrypted/);
  });

  it('is refused with the reason where it is broken, and nothing is changed', async () => {
    const before = await counts();
    const file = JSON.stringify(await exported());
    const whole = await zipped();
    const wrong: [Buffer, string][] = [
      [Buffer.from('no zip'), 'It is no zip file'],
      [whole.subarray(0, whole.length - 40), 'It is no'],
      [await zipOf({ 'a.txt': 'x' }), 'It holds no board.json'],
      [await zipOf({ 'board.json': '{' }), 'is not valid JSON'],
      [await zipOf({ 'board.json': file }), 'It holds no datapackage.json'],
      [await zipOf({ 'board.json': file, 'datapackage.json': '{}' }), 'It holds no data/quays-of-old.csv'],
      [
        await zipOf({
          'board.json': file,
          'datapackage.json': '{}',
          'data/quays-of-old.csv': 'Quay,On,Open,People,Note\nQuel,never,yes,10,\nQuel,2021-01-01,yes,1,\n',
        }),
        'rows do not fit',
      ],
      [
        await zipOf({
          'board.json': JSON.stringify({ ...JSON.parse(file), datasets: [] }),
          'datapackage.json': '{}',
        }),
        'which it does not hold',
      ],
      [await zipOf({ 'board.json': 'x'.repeat(5_000_000) }), 'larger than 4 MB'],
      [
        await zipOf(Object.fromEntries(Array.from({ length: 130 }, (_, i) => [`part ${i}`, 'x']))),
        'It holds too much',
      ],
    ];
    for (const [bytes, says] of wrong) {
      const { status, body } = await sendZip(bytes);
      expect([says, status]).toEqual([says, 422]);
      expect(body.detail).toContain(says);
    }
    expect(await counts()).toEqual(before);
  });
});
