import { readFileSync, statSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { plainChart } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { connectionTo } from '../testing/connection-to';
import { type TestApp, testApp } from '../testing/test-app';
import { Secrets, Unreadable } from './secrets';

/** The application, and another database of the same PostgreSQL that is somebody else's. */
let t: TestApp;
let other: TestApp;
let connection: string;

const run = async (...statements: string[]) => {
  // Its user has a schema of its own, which would come first.
  await other.database.pool.query(['SET search_path = public', ...statements, 'RESET search_path'].join(';'));
};
const connect = (more: object = {}) =>
  t.send('POST', '/api/connections', { ...connectionTo(other.url), ...more });
const place = (table: string, more: object = {}) =>
  t.send('POST', `/api/connections/${connection}/datasets`, { schema: 'public', table, ...more });

beforeAll(async () => {
  [t, other] = await Promise.all([testApp(), testApp()]);
  const made = await connect();
  expect(made.status).toBe(201);
  connection = made.body.id;
});
afterAll(async () => {
  await t.close();
  await other.close();
});

const ask = async (dataset: string, query: string) => {
  const { body } = await t.json(`/api/datasets/${dataset}`);
  return t.request(`/api/datasets/${dataset}/cube?version=${body.version}&${query}`);
};
const figures = async (dataset: string, query: string) => {
  const answer = await ask(dataset, query);
  expect(answer.status).toBe(200);
  const { dimensions, partials } = cubeFromArrow(new Uint8Array(await answer.arrayBuffer()));
  const [by] = dimensions;
  return Array.from(by!.codes, (code, i) => [code < 0 ? null : by!.values[code], partials[0]!.values[i]]);
};
const problem = async (dataset: string, query: string) => {
  const answer = await ask(dataset, query);
  const { type, detail } = (await answer.json()) as { type: string; detail: string };
  return { status: answer.status, type, detail };
};

it('whose answer would have more readings than one picture can have is said so, with a way on', async () => {
  await run('CREATE VIEW ticks AS SELECT n, n % 7 AS day FROM generate_series(1, 2000001) AS n');
  const { body } = await place('ticks');
  expect(await problem(body.id, 'key=n&aggregate=count')).toEqual({
    status: 413,
    type: '/problems/too-many-combinations',
    detail: expect.stringMatching(/^n gives more than 2,000,000 combinations\. Keep fewer rows/),
  });
  const kept = encodeURIComponent(JSON.stringify({ field: 'n', ranges: [[1, 300_000]] }));
  expect(await figures(body.id, `key=n&aggregate=count&keep=${kept}`)).toHaveLength(300_000);
  await t.request(`/api/datasets/${body.id}`, { method: 'DELETE' });
});

describe('a password', () => {
  it('never comes back, and is sealed in the database', async () => {
    const { password } = connectionTo(other.url);
    const { body } = await t.json('/api/connections');
    expect(body).toHaveLength(1);
    expect(body[0]).not.toHaveProperty('password');
    const { rows } = await t.database.pool.query('SELECT * FROM sorvik.connections');
    for (const text of [JSON.stringify(body), JSON.stringify(rows)]) expect(text).not.toContain(password);
    const file = join(t.spool, 'connections.key');
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(JSON.stringify(rows)).not.toContain(readFileSync(file, 'utf8').trim());
  });

  it('that is wrong keeps nothing, and is said', async () => {
    const { status, body } = await connect({ password: 'not-this-one' });
    expect(status).toBe(502);
    expect(body.type).toBe('/problems/source-refused');
    expect(body.detail).toMatch(
      /^Harbour office refuses: password authentication failed .*Check user, password/,
    );
    expect(JSON.stringify(body)).not.toContain('not-this-one');
    expect((await t.json('/api/connections')).body).toHaveLength(1);
  });

  it('goes to no other server than the one that it was given for', async () => {
    const { password, ...rest } = connectionTo(other.url);
    const { body: made } = await connect({ name: 'Moving' });
    const change = (more: object) => t.send('PUT', `/api/connections/${made.id}`, { ...rest, ...more });
    for (const more of [{ host: 'localhost' }, { port: 5433 }, { user: 'somebody' }])
      expect(await change(more)).toMatchObject({ status: 422, body: { errors: [{ pointer: '/password' }] } });
    expect((await change({ name: 'Renamed' })).body).toMatchObject({ name: 'Renamed' });
    expect((await change({ host: 'localhost', password })).body).toMatchObject({ host: 'localhost' });
    await t.send('DELETE', `/api/connections/${made.id}`);
  });

  it('is opened with its own key alone, and for its own connection', async () => {
    const [one, another] = ['one.key', 'another.key'].map((name) => new Secrets(join(t.spool, name)));
    const sealed = await one!.seal('tide 🌊', 'harbour');
    expect(sealed).not.toContain('tide');
    expect(await one!.open(sealed, 'harbour')).toBe('tide 🌊');
    expect(await one!.seal('tide 🌊', 'harbour')).not.toBe(sealed);
    await expect(one!.open(sealed, 'office')).rejects.toThrow(Unreadable);
    await another!.seal('', '');
    await expect(another!.open(sealed, 'harbour')).rejects.toThrow(Unreadable);
    await expect(one!.open('nonsense', 'harbour')).rejects.toThrow(Unreadable);
  });

  it('whose key is gone has to be entered again', async () => {
    const lone = await testApp();
    try {
      const made = await lone.send('POST', '/api/connections', connectionTo(other.url));
      const { id } = made.body;
      await rm(join(lone.spool, 'connections.key'));
      // As after a start of the server: no key is remembered.
      const { Connections } = await import('./connections');
      const again = new Connections(lone.database, new Secrets(join(lone.spool, 'connections.key')));
      await expect(again.place(id)).rejects.toMatchObject({
        kind: 'source-refused',
        detail: expect.stringContaining('Enter it again'),
      });
      await again.change(id, connectionTo(other.url));
      const { server } = await again.place(id);
      expect((await server.read((client) => client.query('SELECT 7 AS n'))).rows).toEqual([{ n: 7 }]);
      await again.close();
    } finally {
      await lone.close();
    }
  });
});

describe('a connection', () => {
  it('that nobody answers is not kept, and is said', async () => {
    const { status, body } = await connect({ port: 1 });
    expect([status, body.type]).toEqual([502, '/problems/source-not-reached']);
    expect(body.detail).toMatch(/^Harbour office does not answer \(127\.0\.0\.1, port 1\)/);
  });

  it('to a database that is not there is refused', async () => {
    const { body } = await connect({ database: 'nowhere' });
    expect(body.type).toBe('/problems/source-refused');
    expect(body.detail).toContain('database "nowhere" does not exist');
  });

  it.each([
    [{ host: 'harbour.example/x' }, '/host'],
    [{ host: '' }, '/host'],
    [{ port: 70_000 }, '/port'],
    [{ seconds: 0 }, '/seconds'],
    [{ most: 1000 }, '/most'],
    [{ tls: 'maybe' }, '/tls'],
    [{ user: '' }, '/user'],
    [{ name: 7 }, '/name'],
  ])('with %j points at what is wrong', async (more, pointer) => {
    const { status, body } = await connect(more);
    expect(status).toBe(422);
    expect(body.errors[0].pointer).toBe(pointer);
  });

  it('that is used is not forgotten; one that is not any more is', async () => {
    await run('CREATE TABLE berths (name text)');
    const { body: made } = await connect({ name: 'Berths' });
    const { body: dataset } = await t.send('POST', `/api/connections/${made.id}/datasets`, {
      schema: 'public',
      table: 'berths',
    });
    const used = await t.send('DELETE', `/api/connections/${made.id}`);
    expect([used.status, used.body.detail]).toEqual([
      409,
      'Berths is used by berths. Delete that dataset first.',
    ]);
    await t.send('DELETE', `/api/datasets/${dataset.id}`);
    expect((await t.send('DELETE', `/api/connections/${made.id}`)).status).toBe(204);
    expect((await t.send('DELETE', `/api/connections/${made.id}`)).status).toBe(404);
  });

  it('opens no more at a time than are allowed', async () => {
    const { body: made } = await connect({ name: 'Narrow', most: 2 });
    const { server } = await t.sources.connections.place(made.id);
    const open = () =>
      server.read(async (client) => {
        const { rows } = await client.query(
          "SELECT count(*) AS n, pg_sleep(0.05) FROM pg_stat_activity WHERE application_name = 'sorvik' AND datname = current_database() AND state <> 'idle'",
        );
        return rows[0].n as number;
      });
    const seen = await Promise.all(Array.from({ length: 8 }, open));
    expect(Math.max(...seen)).toBe(2);
  });

  it('changes nothing, whatever is asked', async () => {
    await run('CREATE TABLE written (n int)', 'INSERT INTO written VALUES (1)');
    const { server } = await t.sources.connections.place(connection);
    await expect(
      server.read((client) => client.query('INSERT INTO public.written VALUES (2)')),
    ).rejects.toThrow('read-only transaction');
    const { rows } = await other.database.pool.query('SELECT n FROM public.written');
    expect(rows).toEqual([{ n: 1 }]);
  });
});

describe('a table', () => {
  beforeAll(() =>
    run(
      "CREATE TYPE mood AS ENUM ('calm', 'rough')",
      'CREATE DOMAIN knots AS integer CHECK (VALUE >= 0)',
      `CREATE TABLE "Log book" ("Id" bigint PRIMARY KEY, "Ship name" varchar(40), sea mood, speed knots, load numeric(9,2),
        wind real, day date, at timestamptz, open boolean, notes jsonb, tags text[])`,
      `INSERT INTO "Log book" VALUES
        (9007199254740993, 'Ostrin "2"', 'calm', 12, 10.25, 'NaN', '2024-02-29', '2024-02-29 23:30:00+02', true, '{}', '{}'),
        (9007199254740995, 'Ostrin 10', 'rough', 9, 0.5, 3, '2024-03-01', '2024-03-01 00:30:00+02', false, '{}', '{}'),
        (4, 'Ostrin "2"', 'rough', NULL, NULL, 5, '-infinity', NULL, NULL, NULL, NULL)`,
      `CREATE VIEW "Calm days" AS SELECT day, speed FROM "Log book" WHERE sea = 'calm'`,
    ),
  );

  it('is listed, with views, and its columns say what they are here', async () => {
    const { body } = await t.json(`/api/connections/${connection}/tables`);
    const found = body.filter(({ schema }: { schema: string }) => schema === 'public');
    expect(found).toContainEqual(expect.objectContaining({ name: 'Log book', kind: 'table' }));
    expect(found).toContainEqual(expect.objectContaining({ name: 'Calm days', kind: 'view' }));
    const { body: view } = await t.json(`/api/connections/${connection}/tables/public/Log%20book`);
    expect(view.fields.map(({ name, type }: { name: string; type: string }) => [name, type])).toEqual([
      ['Id', 'integer'],
      ['Ship name', 'text'],
      ['sea', 'text'],
      ['speed', 'integer'],
      ['load', 'decimal'],
      ['wind', 'decimal'],
      ['day', 'date'],
      ['at', 'datetime'],
      ['open', 'boolean'],
      ['notes', null],
      ['tags', null],
    ]);
    expect(view.changeable).toBe(true);
  });

  it('becomes a dataset whose figures are those of its rows', async () => {
    const { status, body } = await place('Log book', { name: 'Log' });
    expect(status).toBe(201);
    expect(body).toMatchObject({ name: 'Log', rows: 3, rejected: 0 });
    expect(body.fields.map(({ key, name, type }: Record<string, string>) => [key, name, type])).toEqual([
      ['id', 'Id', 'text'],
      ['ship_name', 'Ship name', 'text'],
      ['sea', 'sea', 'text'],
      ['speed', 'speed', 'integer'],
      ['load', 'load', 'decimal'],
      ['wind', 'wind', 'decimal'],
      ['day', 'day', 'date'],
      ['at', 'at', 'datetime'],
      ['open', 'open', 'boolean'],
    ]);
    expect(body.source.notes).toEqual([
      'The columns “notes” (jsonb) and “tags” (text[]) are left out: charts can show numbers, text, yes/no, dates and times.',
      '“Id” has numbers of more than 15 digits, so it is taken as text.',
      '“wind” has values that are no ordinary numbers, such as infinity; they count as missing.',
      '“day” has dates before the year 1 or after 9999; they count as missing.',
      'The user could also change this table. Sorvik never does; a user who can only read is safer still.',
    ]);
    const { profile } = body.fields.find(({ key }: { key: string }) => key === 'day');
    expect(profile).toMatchObject({ count: 2, missing: 1, min: '2024-02-29', max: '2024-03-01' });
    expect(await figures(body.id, 'key=ship_name&aggregate=sum.load&aggregate=first')).toEqual([
      ['Ostrin "2"', 10.25],
      ['Ostrin 10', 0.5],
    ]);
    expect(await figures(body.id, 'key=at.day&aggregate=count&aggregate=first')).toEqual([
      ['2024-02-29', 2],
      [null, 1],
    ]);
    const { body: values } = await t.json(`/api/datasets/${body.id}/fields/ship_name/values`);
    expect(values.values).toEqual([
      { value: 'Ostrin "2"', count: 2 },
      { value: 'Ostrin 10', count: 1 },
    ]);
    const { body: rows } = await t.json(`/api/datasets/${body.id}/rows?limit=2`);
    expect(rows.rows.map(([id]: string[]) => id)).toEqual(['4', '9007199254740993']);
    expect(rows.rows[1][7]).toBe('2024-02-29T21:30:00');
  });

  it('that is empty, or has nothing that a chart could show, is said', async () => {
    await run('CREATE TABLE empty_one (day date, n int)', 'CREATE TABLE blobs (b bytea)');
    const { body } = await place('empty_one');
    expect(body).toMatchObject({ rows: 0, fields: [{ key: 'day' }, { key: 'n' }] });
    expect(await figures(body.id, 'key=day.month&aggregate=sum.n')).toEqual([]);
    const blobs = await place('blobs');
    expect([blobs.status, blobs.body.detail]).toEqual([
      422,
      'table: public.blobs has no column that a chart could show',
    ]);
    expect((await place('nowhere')).status).toBe(404);
    expect((await place('"; DROP TABLE blobs; --')).status).toBe(404);
  });

  it('shows rows that came meanwhile when it is asked anew', async () => {
    await run('CREATE TABLE growing (kind text)', "INSERT INTO growing VALUES ('a')");
    const { body } = await place('growing');
    const answer = await ask(body.id, 'key=kind&aggregate=count');
    expect(answer.headers.get('cache-control')).toBe('no-store');
    await run("INSERT INTO growing VALUES ('b')");
    await t.send('POST', `/api/datasets/${body.id}/look`);
    expect((await t.json(`/api/datasets/${body.id}`)).body.rows).toBe(2);
    expect(await figures(body.id, 'key=kind&aggregate=count&aggregate=first')).toEqual([
      ['a', 1],
      ['b', 1],
    ]);
  });

  it('keeps its columns: what would change rows is refused, and why', async () => {
    const { body } = await place('Calm days');
    const path = `/api/datasets/${body.id}`;
    const tries = [
      await t.send('POST', `${path}/fields`, { name: 'twice', formula: 'speed * 2' }),
      await t.send('POST', `${path}/fields/speed/retype`, { type: 'text' }),
      await t.json(`${path}/fields/speed/retype?type=text`),
    ];
    for (const { status, body: refused } of tries) {
      expect([status, refused.type]).toEqual([409, '/problems/table-in-place']);
      expect(refused.detail).toMatch(/^Calm days is read in place/);
    }
    const renamed = await t.send('PATCH', `${path}/fields/speed`, { name: 'Knots' });
    expect(renamed.body.fields[1].name).toBe('Knots');
    await t.send('POST', `${path}/look`);
    expect((await t.json(path)).body.fields[1]).toMatchObject({ key: 'speed', name: 'Knots' });
    const { body: own } = await t
      .importCsv('a\n1\n', 'Own.csv')
      .then(({ dataset }) => t.json(`/api/datasets/${dataset}`));
    expect((await t.send('POST', `/api/datasets/${own.id}/look`)).body.type).toBe('/problems/not-in-place');
  });
});

describe('a table that changes', () => {
  let dataset: string;
  beforeEach(async () => {
    await run(
      'DROP TABLE IF EXISTS tides',
      'CREATE TABLE tides (day date, height float8, berth text)',
      "INSERT INTO tides VALUES ('2024-01-01', 2.5, 'A'), ('2024-02-01', 3, 'B')",
    );
    dataset = (await place('tides')).body.id;
  });
  const query = 'key=day.month&aggregate=max.height';
  const whole = [
    ['2024-01-01', 2.5],
    ['2024-02-01', 3],
  ];

  it('and lacks a column says which, and goes on when it is back', async () => {
    await run('ALTER TABLE tides DROP COLUMN height');
    expect(await problem(dataset, query)).toEqual({
      status: 502,
      type: '/problems/source-has-changed',
      detail:
        'public.tides of Harbour office has no column “height” any more. Bring it back, or look at the table again on the page of the dataset.',
    });
    // What needs it not is still there.
    expect(await figures(dataset, 'key=berth&aggregate=count&aggregate=first')).toHaveLength(2);
    await run(
      'ALTER TABLE tides ADD COLUMN height float8',
      'UPDATE tides SET height = 2 + 0.5 * extract(month FROM day)',
    );
    expect(await figures(dataset, `${query}&aggregate=first`)).toEqual(whole);
  });

  it('and has a column of another type says what it was', async () => {
    await run("ALTER TABLE tides ALTER COLUMN height TYPE text USING 'high'");
    expect(await problem(dataset, query)).toMatchObject({
      type: '/problems/source-has-changed',
      detail: expect.stringContaining('the column “height” is now text; it was double precision'),
    });
    await t.send('POST', `/api/datasets/${dataset}/look`);
    expect((await t.json(`/api/datasets/${dataset}`)).body.fields[1]).toMatchObject({
      key: 'height',
      type: 'text',
    });
    expect(await figures(dataset, 'key=height&aggregate=count')).toEqual([['high', 2]]);
  });

  it('and is gone says so', async () => {
    await run('DROP TABLE tides');
    expect(await problem(dataset, query)).toMatchObject({
      type: '/problems/source-has-changed',
      detail: expect.stringContaining('has no table public.tides any more'),
    });
    expect((await t.send('POST', `/api/datasets/${dataset}/look`)).status).toBe(404);
  });

  it('takes up new columns when it is looked at again, and keeps those that were', async () => {
    await run("ALTER TABLE tides ADD COLUMN quay text DEFAULT 'old'", 'ALTER TABLE tides DROP COLUMN berth');
    const { body } = await t.send('POST', `/api/datasets/${dataset}/look`);
    expect(body.fields.map(({ key }: { key: string }) => key)).toEqual(['day', 'height', 'quay']);
  });
});

describe('a source that takes long', () => {
  let slow: string;
  let dataset: string;
  beforeAll(async () => {
    await run(
      'CREATE TABLE slowness (seconds float8)',
      'INSERT INTO slowness VALUES (0)',
      'CREATE VIEW slow AS SELECT 1 AS n, pg_sleep(seconds) IS NULL AS late FROM slowness',
    );
    slow = (await connect({ name: 'Slow office', seconds: 1 })).body.id;
    const made = await t.send('POST', `/api/connections/${slow}/datasets`, {
      schema: 'public',
      table: 'slow',
    });
    dataset = made.body.id;
    await run('UPDATE slowness SET seconds = 60');
  });
  const atWork = async () => {
    const { rows } = await other.database.pool.query(
      "SELECT count(*) AS n FROM pg_stat_activity WHERE query LIKE '%AS placed%' AND state = 'active' AND pid <> pg_backend_pid()",
    );
    return rows[0].n as number;
  };

  it('is broken off after its time, and said', async () => {
    expect(await problem(dataset, 'key=late&aggregate=count')).toEqual({
      status: 504,
      type: '/problems/source-too-slow',
      detail:
        'Slow office took longer than 1 second, so the question was broken off. Filter to less, or allow more time on the page Databases.',
    });
    expect(await atWork()).toBe(0);
  });

  it('is left when nobody waits any more', async () => {
    const patient = (await connect({ name: 'Patient office', seconds: 600 })).body.id;
    await run('UPDATE slowness SET seconds = 0');
    const { body } = await t.send('POST', `/api/connections/${patient}/datasets`, {
      schema: 'public',
      table: 'slow',
    });
    await run('UPDATE slowness SET seconds = 60');
    const gone = new AbortController();
    const asked = Promise.resolve(
      t.request(`/api/datasets/${body.id}/cube?version=${body.version}&key=late&aggregate=count`, {
        signal: gone.signal,
      }),
    );
    asked.catch(() => {});
    await expect.poll(atWork).toBe(1);
    gone.abort();
    await expect.poll(atWork).toBe(0);
  });
});

it('a board with a table in place is downloaded without its data, and says why', async () => {
  await run('CREATE TABLE piers (name text, n int)');
  const { body: dataset } = await place('piers');
  const document = {
    version: 1,
    title: 'Piers',
    levers: [],
    charts: [plainChart(dataset.id, { title: 'Piers', by: { field: 'name' } })],
  };
  const made = await t.send('POST', '/api/boards', { document });
  expect(made.status, JSON.stringify(made.body)).toBe(201);
  const zip = await t.json(`/api/boards/${made.body.id}/file?data=true`);
  expect([zip.status, zip.body.detail]).toEqual([
    409,
    'piers is a table that is read in place, so a file cannot hold its rows. Download the board without its data.',
  ]);
  const file = await t.request(`/api/boards/${made.body.id}/file`);
  const text = await file.text();
  const { password, host } = connectionTo(other.url);
  for (const secret of [password!, host]) expect(text).not.toContain(secret);
});
