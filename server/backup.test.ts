import { execFile } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { openDatabase } from './db/client';
import { type TeamApp, teamApp } from './testing/team-app';

const run = promisify(execFile);
const migrations = fileURLToPath(new URL('./migrations', import.meta.url));
let folder: string;
let team: TeamApp;
let dataset: string;
let admin: pg.Client;
let made = 0;

/** A database that has nothing yet. */
async function emptyDatabase(): Promise<string> {
  const name = `restored_${process.pid}_${++made}_${Date.now()}`;
  await admin.query(`CREATE DATABASE ${name}`);
  return inject('databaseUrl').replace(/\/[^/]*$/, `/${name}`);
}
const script = (name: string, ...args: string[]) =>
  run(process.execPath, [fileURLToPath(new URL(`../scripts/${name}.mjs`, import.meta.url)), ...args]).then(
    ({ stdout }) => stdout,
    ({ stderr }: { stderr: string }) => {
      throw new Error(stderr.trim());
    },
  );
async function inDatabase<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  return work(client).finally(() => client.end());
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'sorvik-backup-'));
  admin = new pg.Client({ connectionString: inject('databaseUrl') });
  await admin.connect();
  team = await teamApp();
  await team.invited('Edda');
  dataset = await team.imported('Edda', 'Landings');
  const document = { version: 1, title: 'Landings', levers: [], charts: [] };
  await team.as('Edda', 'POST', '/api/boards', { document });
  await team.give('Edda', 'dataset', dataset, 'everybody', 'view');
});
afterAll(async () => {
  await team.t.close();
  await admin.end();
  rmSync(folder, { recursive: true, force: true });
});

describe('a backup', () => {
  const file = () => join(folder, 'one.backup');

  it('is one state of all that there is, also while rows come', async () => {
    const { body } = await team.as('Edda', 'POST', `/api/datasets/${dataset}/tokens`, { name: 'feed' });
    let over = false;
    let pushed = 0;
    const pushing = (async () => {
      while (!over) {
        const { status } = await team.as(
          null,
          'POST',
          `/api/datasets/${dataset}/rows`,
          '{"quay":"Harl","tons":1}\n{"quay":"Quel","tons":2}\n',
          { authorization: `Bearer ${body.token}`, 'content-type': 'application/x-ndjson' },
        );
        expect(status).toBe(200);
        pushed++;
      }
    })();
    const said = await script('backup', file(), '--database', team.t.url);
    over = true;
    await pushing;
    expect(said).toMatch(/tables, [\d,]+ rows, as of/);
    expect(pushed).toBeGreaterThan(1);
    expect(statSync(file()).mode & 0o777).toBe(0o600);
  });

  it('comes back with documents, rows, people and rights, and is counted', async () => {
    const url = await emptyDatabase();
    expect(await script('restore', file(), '--database', url)).toContain('Brought back and counted');
    const database = await openDatabase(url, migrations, () => {});
    const { rows } = await database.pool.query(
      `SELECT d.rows AS said, d.number, (SELECT count(*) FROM sorvik.rights) AS rights,
        (SELECT count(*) FROM sorvik.people) AS people, (SELECT count(*) FROM sorvik.boards) AS boards,
        (SELECT count(*) FROM sorvik.audit) AS audit
       FROM sorvik.datasets d`,
    );
    expect(rows).toHaveLength(1);
    const [found] = rows;
    expect(found).toMatchObject({ people: 2, boards: 1, rights: 3 });
    expect(found.audit).toBeGreaterThan(2);
    // Rows and what is said of them are of one moment.
    const counted = await database.pool.query(`SELECT count(*) AS n FROM data.d_${found.number}`);
    expect(Number(counted.rows[0].n)).toBe(Number(found.said));
    expect(Number(found.said) % 2).toBe(0);
    await expect(database.pool.query('DELETE FROM sorvik.audit')).rejects.toThrow('stays');
    await database.close();
  });

  it('is not brought back into what has something already', async () => {
    await expect(script('restore', file(), '--database', team.t.url)).rejects.toThrow(
      'has something of Sorvik',
    );
  });

  it('that is damaged, cut short or none brings back nothing', async () => {
    const whole = readFileSync(file());
    const damaged = Buffer.from(whole);
    damaged.fill(7, damaged.length - 6000, damaged.length - 3000);
    for (const [name, bytes] of [
      ['cut', whole.subarray(0, whole.length - 2000)],
      ['damaged', damaged],
      ['text', Buffer.from('no backup')],
    ] as const) {
      const path = join(folder, `${name}.backup`);
      writeFileSync(path, bytes);
      const url = await emptyDatabase();
      await expect(script('restore', path, '--database', url), name).rejects.toThrow(/backup|damaged/);
      const left = await inDatabase(url, (client) =>
        client.query("SELECT count(*)::int AS n FROM pg_tables WHERE schemaname IN ('sorvik', 'data')"),
      );
      expect([name, left.rows[0].n]).toEqual([name, 0]);
    }
  });

  it('is not written over', async () => {
    await expect(script('backup', file(), '--database', team.t.url)).rejects.toThrow('is there already');
    const empty = await emptyDatabase();
    await expect(script('backup', join(folder, 'nothing'), '--database', empty)).rejects.toThrow(
      'nothing of Sorvik',
    );
  });
});

describe('an older schema', () => {
  /** The steps that came before groups, rules, links and tokens. */
  const steps = 14;

  it('is brought up to date with what is in it', async () => {
    const older = join(folder, 'migrations');
    cpSync(migrations, older, { recursive: true });
    const journal = JSON.parse(readFileSync(join(older, 'meta/_journal.json'), 'utf8'));
    expect(journal.entries.length).toBeGreaterThan(steps);
    journal.entries.length = steps;
    writeFileSync(join(older, 'meta/_journal.json'), JSON.stringify(journal));
    const url = await emptyDatabase();
    const before = await openDatabase(url, older, () => {});
    await before.pool.query(`
      INSERT INTO sorvik.people (id, email, name, owner) VALUES ('olga', 'olga@example.org', 'Olga', true);
      INSERT INTO sorvik.boards (id, document, revision) VALUES ('b', '{"version":1,"title":"Old","levers":[],"charts":[]}', 3);
      INSERT INTO sorvik.datasets (id, name, version, rows, source) VALUES ('d', 'Old', 7, 0, '{"file":"old.csv","notes":[]}');
      INSERT INTO sorvik.rights (kind, thing, grantee, role) VALUES ('board', 'b', 'everybody', 'view');`);
    await before.close();
    const after = await openDatabase(url, migrations, () => {});
    const { rows } = await after.pool.query(
      `SELECT b.document ->> 'title' AS title, b.revision, d.version, d.row_rule, r.role, p.name
       FROM sorvik.boards b, sorvik.datasets d, sorvik.rights r, sorvik.people p`,
    );
    expect(rows).toEqual([
      { title: 'Old', revision: 3, version: 7, row_rule: null, role: 'view', name: 'Olga' },
    ]);
    await after.close();
  });
});
