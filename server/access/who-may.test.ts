import { plainChart } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TeamApp, teamApp } from '../testing/team-app';

let team: TeamApp;
let as: TeamApp['as'];
let dataset: string;
let board: string;

interface Named {
  name: string;
}
const who = async (of = `boards/${board}`) => {
  const { status, body } = await as('Edda', 'GET', `/api/${of}/who`);
  expect(status).toBe(200);
  return {
    people: Object.fromEntries(
      body.people.map(({ name, role, by }: Named & { role: string; by: object[] }) => [name, { role, by }]),
    ),
    data: body.data.map(({ title, blind, partly }: { title: string; blind: Named[]; partly: Named[] }) => ({
      title,
      blind: blind.map(({ name }) => name),
      partly: partly.map(({ name }) => name),
    })),
  };
};

beforeAll(async () => {
  team = await teamApp();
  ({ as } = team);
  for (const name of ['Edda', 'Wim', 'Vito', 'Nils']) await team.invited(name);
  dataset = await team.imported('Edda', 'Landings');
  const chart = plainChart(dataset, { by: { field: 'quay' }, measure: { aggregate: 'sum', field: 'tons' } });
  const document = { version: 1, title: 'Landings', levers: [], charts: [chart] };
  board = (await as('Edda', 'POST', '/api/boards', { document })).body.id;
});
afterAll(() => team.t.close());

it('says what each may do, and by which rights', async () => {
  const group = (await as('Olga', 'POST', '/api/groups', { name: 'Quel' })).body.id;
  const people = ['Wim', 'Vito'].map((name) => team.ids[name]);
  expect((await as('Olga', 'PUT', `/api/groups/${group}/people`, { people })).status).toBe(200);
  const give = (grantee: string, role: string) =>
    as('Edda', 'PUT', `/api/boards/${board}/rights`, { grantee, role });
  await give(`group/${group}`, 'view');
  await give(team.ids.Wim!, 'edit');
  const all = (await who()).people;
  expect(all).toEqual({
    Edda: { role: 'own', by: [{ is: 'person', role: 'own' }] },
    Olga: { role: 'own', by: [{ is: 'owner' }] },
    Vito: { role: 'view', by: [{ is: 'group', role: 'view', name: 'Quel' }] },
    Wim: {
      role: 'edit',
      by: expect.arrayContaining([
        { is: 'person', role: 'edit' },
        { is: 'group', role: 'view', name: 'Quel' },
      ]),
    },
  });
  await give('everybody', 'view');
  expect((await who()).people.Nils).toEqual({ role: 'view', by: [{ is: 'everybody', role: 'view' }] });
  await give('everybody', null as never);
});

it('names who does not see the data, as it is', async () => {
  const sees = async (name: string) => {
    const { status } = await as(name, 'GET', `/api/datasets/${dataset}`);
    return status === 200;
  };
  expect((await who()).data).toEqual([{ title: 'Landings', blind: ['Vito', 'Wim'], partly: [] }]);
  expect([await sees('Vito'), await sees('Wim')]).toEqual([false, false]);
  await as('Edda', 'POST', `/api/boards/${board}/publish`, { revision: 1 });
  expect((await who()).data).toEqual([{ title: 'Landings', blind: [], partly: ['Wim'] }]);
  expect([await sees('Vito'), await sees('Wim')]).toEqual([true, true]);
  await team.give('Edda', 'dataset', dataset, 'Wim', 'view');
  expect((await who()).data).toEqual([]);
  expect((await who(`datasets/${dataset}`)).people.Wim).toEqual({
    role: 'view',
    by: [{ is: 'person', role: 'view' }],
  });
});

it('is told to whoever owns it', async () => {
  for (const name of ['Wim', 'Vito'])
    expect((await as(name, 'GET', `/api/boards/${board}/who`)).status, name).toBe(403);
  const owned = async (name: string) => (await as(name, 'GET', '/api/boards')).body[0].owned;
  expect([await owned('Edda'), await owned('Wim'), await owned('Vito')]).toEqual([
    true,
    undefined,
    undefined,
  ]);
});
