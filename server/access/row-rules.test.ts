import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { plainChart, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TeamApp, teamAddress, teamApp } from '../testing/team-app';

let team: TeamApp;
let as: TeamApp['as'];
let dataset: string;
let board: string;
let group: string;

const quays = ['Quel', 'Harl', 'Ostrin'];
/** Each quay has ten rows of 1, 2, 3 .. times its number. */
const csv = `quay,keeper,tons\n${quays
  .flatMap((quay, q) =>
    Array.from(
      { length: 10 },
      (_, i) => `${quay},${['vito', 'nils', 'wim'][q]}@example.org,${(i + 1) * (q + 1)}`,
    ),
  )
  .join('\n')}\n`;

const setRule = (rule: string | null, who = 'Edda') =>
  as(who, 'PUT', `/api/datasets/${dataset}/rule`, { rule });
const view = async (who: string) => (await as(who, 'GET', `/api/datasets/${dataset}`)).body;

/** The tons of each quay as somebody sees them. */
async function tons(who: string): Promise<Record<string, number>> {
  const { version } = await view(who);
  const response = await team.t.request(
    `/api/datasets/${dataset}/cube?version=${version}&key=quay&aggregate=sum.tons`,
    { headers: { host: teamAddress.host, cookie: team.cookies[who]! } },
  );
  expect(response.status).toBe(200);
  const cube = cubeFromArrow(new Uint8Array(await response.arrayBuffer()));
  const [{ values, codes }] = cube.dimensions as [(typeof cube.dimensions)[0]];
  return Object.fromEntries(Array.from(codes, (code, i) => [values[code], cube.partials[0]!.values[i]]));
}

beforeAll(async () => {
  team = await teamApp({ copies: true });
  ({ as } = team);
  for (const name of ['Edda', 'Vito', 'Nils', 'Wim']) await team.invited(name);
  dataset = await team.imported('Edda', 'Landings', csv);
  const document = {
    version: 1,
    title: 'Landings',
    levers: [plainPick(dataset, 'quay', 'quays', 'Quays')],
    charts: [plainChart(dataset, { by: { field: 'quay' }, measure: { aggregate: 'sum', field: 'tons' } })],
  };
  board = (await as('Edda', 'POST', '/api/boards', { document })).body.id;
  await as('Edda', 'POST', `/api/boards/${board}/publish`, { revision: 1 });
  group = (await as('Olga', 'POST', '/api/groups', { name: 'Quel' })).body.id;
  await as('Olga', 'PUT', `/api/groups/${group}/people`, { people: [team.ids.Nils] });
  await team.give('Edda', 'dataset', dataset, 'Vito', 'view');
  await team.give('Edda', 'dataset', dataset, 'Wim', 'edit');
  await team.give('Edda', 'board', board, 'Nils', 'view');
});
afterAll(() => team.t.close());

describe('a rule', () => {
  it('holds in figures, values and what is said of a dataset, for whoever does not own it', async () => {
    expect((await setRule('keeper = :person_email')).status).toBe(200);
    expect(await tons('Edda')).toEqual({ Quel: 55, Harl: 110, Ostrin: 165 });
    expect(await tons('Olga')).toEqual({ Quel: 55, Harl: 110, Ostrin: 165 });
    expect(await tons('Vito')).toEqual({ Quel: 55 });
    expect(await tons('Wim')).toEqual({ Ostrin: 165 });
    const own = await view('Vito');
    expect(own).toMatchObject({ rows: 10, restricted: true, rejected: 0, source: { file: '', notes: [] } });
    const profile = own.fields.find(({ key }: { key: string }) => key === 'tons').profile;
    expect(profile).toMatchObject({ count: 10, min: 1, max: 10, distinct: 10 });
    expect(own).not.toHaveProperty('copy');
    const [listed] = (await as('Vito', 'GET', '/api/datasets')).body;
    expect([listed.rows, JSON.stringify(listed)]).toEqual([10, expect.not.stringContaining('Ostrin')]);
    const values = await as('Vito', 'GET', `/api/datasets/${dataset}/fields/quay/values?offset=0&limit=10`);
    expect(values.body).toEqual({ total: 1, found: 1, values: [{ value: 'Quel', count: 10 }] });
    const shape = await as('Vito', 'GET', `/api/datasets/${dataset}/fields/tons/shape`);
    expect(JSON.stringify(shape.body)).not.toContain('30');
    const absent = await as('Vito', 'POST', `/api/datasets/${dataset}/fields/quay/absent`, { values: quays });
    expect(absent.body).toEqual({ absent: ['Harl', 'Ostrin'] });
    const { version } = own;
    const size = await as('Vito', 'GET', `/api/datasets/${dataset}/cube/size?version=${version}&key=quay`);
    expect(size.body).toEqual({ cells: 1 });
    expect((await view('Edda')).rows).toBe(30);
  });

  it('holds for medians, for counts of one and for what is kept', async () => {
    const { version } = await view('Vito');
    const ask = async (query: Record<string, string>) => {
      const response = await team.t.request(
        `/api/datasets/${dataset}/cube?${new URLSearchParams({ version: String(version), ...query })}`,
        { headers: { host: teamAddress.host, cookie: team.cookies.Vito! } },
      );
      expect(response.status).toBe(200);
      return Array.from(
        cubeFromArrow(new Uint8Array(await response.arrayBuffer())).partials[0]!.values,
        (value) => value,
      );
    };
    const median = 'PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY tons)';
    expect(await ask({ aggregate: JSON.stringify(['nonAdditive', null, median, null]) })).toEqual([5.5]);
    expect(await ask({ aggregate: JSON.stringify(['count', null, null, 'tons = 30']) })).toEqual([0]);
    expect(await ask({ aggregate: 'max.tons' })).toEqual([10]);
    const keep = JSON.stringify({ field: 'quay', values: ['Ostrin'] });
    expect(await ask({ aggregate: 'count', keep })).toEqual([0]);
  });

  it('leaves the rows themselves to whoever owns them', async () => {
    for (const path of ['rows', 'rows.csv', 'rows.arrow', 'rows.parquet', 'rejects', 'versions']) {
      const { status, body } = await as('Wim', 'GET', `/api/datasets/${dataset}/${path}`);
      expect([path, status]).toEqual([path, 403]);
      expect(body.detail).toContain('not for everybody');
    }
    expect((await as('Wim', 'GET', `/api/boards/${board}/file?data=true`)).status).toBe(404);
    const mine = await team.imported('Wim', 'Mine');
    const lookup = { dataset, on: 'quay', from: 'quay' };
    expect((await as('Wim', 'POST', `/api/datasets/${mine}/lookups/preview`, lookup)).status).toBe(403);
    const refresh = { address: `dataset:${dataset}`, mode: 'append' };
    expect((await as('Wim', 'POST', `/api/datasets/${mine}/refreshes/address`, refresh)).status).toBe(403);
    expect((await as('Edda', 'GET', `/api/datasets/${dataset}/rows?offset=0&limit=2`)).status).toBe(200);
  });

  it('is not read or changed by whoever it is for', async () => {
    for (const who of ['Vito', 'Wim', 'Nils']) {
      expect((await setRule(null, who)).status).toBeGreaterThanOrEqual(403);
      expect((await as(who, 'GET', `/api/datasets/${dataset}/rule`)).status).toBeGreaterThanOrEqual(403);
      expect(JSON.stringify(await view(who))).not.toContain('person_email');
    }
  });

  it('goes by groups, also of whoever sees the data on a board alone', async () => {
    await setRule('quay = ANY (:person_groups)');
    expect(await tons('Nils')).toEqual({ Quel: 55 });
    expect((await view('Nils')).rows).toBe(10);
    expect(await tons('Vito')).toEqual({});
    await as('Olga', 'PUT', `/api/groups/${group}/people`, { people: [team.ids.Vito] });
    expect(await tons('Nils')).toEqual({});
    expect(await tons('Vito')).toEqual({ Quel: 55 });
  });

  it('follows rows that come and go, and is gone when it is taken away', async () => {
    const { headers } = await as('Vito', 'GET', `/api/datasets/${dataset}`);
    expect(headers.get('cache-control')).toBe('private, max-age=0, must-revalidate');
    const tag = headers.get('etag')!;
    const same = await as('Vito', 'GET', `/api/datasets/${dataset}`, undefined, { 'if-none-match': tag });
    expect([same.status, same.body]).toEqual([304, '']);
    const others = await as('Edda', 'GET', `/api/datasets/${dataset}`, undefined, { 'if-none-match': tag });
    expect([others.status, others.body.rows]).toEqual([200, 30]);
    await setRule(null);
    expect(await tons('Vito')).toEqual({ Quel: 55, Harl: 110, Ostrin: 165 });
    expect(await view('Vito')).not.toHaveProperty('restricted');
  });

  it('is tried as any person, before it is kept', async () => {
    const tried = async (who: string, rule?: string) =>
      (
        await as('Edda', 'POST', `/api/datasets/${dataset}/rule/try`, {
          person: team.ids[who],
          ...(rule ? { rule } : {}),
        })
      ).body;
    expect(await tried('Vito')).toMatchObject({ owns: false, rows: 30, of: 30 });
    const found = await tried('Vito', 'tons > 20 AND keeper <> :person_email');
    expect(found).toMatchObject({ owns: false, rows: 4, of: 30, fields: ['quay', 'keeper', 'tons'] });
    expect(found.sample.map((row: unknown[]) => row[2])).toEqual([21, 24, 27, 30]);
    expect(await tried('Edda', 'tons > 20')).toMatchObject({ owns: true, rows: 30 });
    expect(await tons('Vito')).toEqual({ Quel: 55, Harl: 110, Ostrin: 165 });
  });

  it.each([
    ['tons', 'has to be true or false'],
    ['tonnes > 1', 'Is tons meant?'],
    ['keeper = :person_name', 'knows :person_email'],
    ['keeper = :person_groups', 'several'],
    ['tons > 1; DROP TABLE x', 'Unexpected'],
    ['SUM(tons) > 1', ''],
    ["quay = 'Quel' AND CURRENT_DATE > DATE '2024-01-01'", 'today'],
  ])('that is none is refused: %s', async (rule, why) => {
    const { status, body } = await setRule(rule);
    expect(status).toBe(422);
    expect(body.errors[0]).toMatchObject({ pointer: '/rule', message: expect.stringContaining(why) });
  });

  it('is in the audit trail', async () => {
    const { body } = await as('Olga', 'GET', '/api/audit?action=rule-changed');
    expect(body.length).toBeGreaterThan(1);
    expect(body[0]).toMatchObject({ name: 'Edda', thing: `datasets/${dataset}/rule` });
  });
});

describe('groups', () => {
  it('are given rights as people are, and lose them with their group', async () => {
    await team.invited('Ida');
    const made = (await as('Olga', 'POST', '/api/groups', { name: 'Harbour' })).body;
    await as('Olga', 'PUT', `/api/groups/${made.id}/people`, { people: [team.ids.Ida] });
    const sees = async () => (await as('Ida', 'GET', `/api/boards/${board}/shown`)).status;
    expect(await sees()).toBe(404);
    const given = await team.give('Edda', 'board', board, `group/${made.id}`, 'view');
    expect(given.body).toContainEqual({
      grantee: `group/${made.id}`,
      role: 'view',
      name: 'Harbour',
      email: null,
    });
    expect(await sees()).toBe(200);
    expect((await as('Ida', 'GET', '/api/boards')).body).toHaveLength(1);
    expect((await view('Ida')).rows).toBe(30);
    expect((await as('Olga', 'DELETE', `/api/groups/${made.id}`)).status).toBe(204);
    expect(await sees()).toBe(404);
    const { body } = await as('Edda', 'GET', `/api/boards/${board}/rights`);
    expect(JSON.stringify(body)).not.toContain('group/');
  });

  it('have one name each, and people that there are', async () => {
    const taken = await as('Olga', 'POST', '/api/groups', { name: 'QUEL' });
    expect([taken.status, taken.body.errors[0].pointer]).toEqual([422, '/name']);
    const strange = await as('Olga', 'PUT', `/api/groups/${group}/people`, { people: ['nobody'] });
    expect([strange.status, strange.body.errors[0].pointer]).toEqual([422, '/people']);
    expect((await as('Olga', 'PATCH', '/api/groups/none', { name: 'x' })).status).toBe(404);
    expect((await team.give('Edda', 'board', board, 'group/none', 'view')).status).toBe(422);
    expect((await as('Edda', 'POST', '/api/groups', { name: 'Mine' })).status).toBe(403);
  });
});
