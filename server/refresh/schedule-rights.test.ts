import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tableAddress } from '@sorvik/core/data/table-address';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TeamApp, teamApp } from '../testing/team-app';

let team: TeamApp;
let as: TeamApp['as'];
let source: Server;
let host: string;
let dataset: string;
let served = 'quay,tons\nQuel,1\n';

beforeAll(async () => {
  source = createServer((_, response) => response.writeHead(200, { 'content-type': 'text/csv' }).end(served));
  await new Promise<void>((done) => source.listen(0, '127.0.0.1', done));
  host = `127.0.0.1:${(source.address() as AddressInfo).port}`;
  team = await teamApp({ schedules: true, allowed: { private: false, hosts: [host] } });
  ({ as } = team);
  for (const name of ['Edda', 'Wim']) await team.invited(name);
  dataset = await team.imported('Edda', 'Landings');
  await team.give('Edda', 'dataset', dataset, 'Wim', 'edit');
});
afterAll(async () => {
  await team.t.close();
  source.close();
});

const set = (who: string, address = `http://${host}/landings.csv`) =>
  as(who, 'PUT', `/api/datasets/${dataset}/schedule`, {
    address,
    mode: 'replace',
    cadence: '0 6 * * *',
    zone: 'Europe/Oslo',
  });
const view = async () => (await as('Edda', 'GET', `/api/datasets/${dataset}`)).body;
const rows = async () => (await view()).rows;
/** Refreshes now, until it went well or is known not to. */
async function ran(): Promise<string | null> {
  const before = (await view()).schedule;
  expect((await as('Edda', 'POST', `/api/datasets/${dataset}/schedule/run`)).status).toBe(202);
  await expect
    .poll(
      async () => {
        const { doneAt, failures } = (await view()).schedule;
        return doneAt !== before.doneAt || failures !== before.failures;
      },
      { timeout: 20_000 },
    )
    .toBe(true);
  return (await view()).schedule.problem;
}

it('goes on as long as whoever set it may change the rows', async () => {
  expect((await set('Wim')).status).toBe(200);
  served = 'quay,tons\nQuel,1\nHarl,2\nVenn,3\n';
  expect(await ran()).toBeNull();
  expect(await rows()).toBe(3);
  await team.give('Edda', 'dataset', dataset, 'Wim', 'view');
  served = 'quay,tons\nQuel,1\n';
  expect(await ran()).toMatch(/^Whoever set this schedule may not change these rows any more/);
  expect(await rows()).toBe(3);
  await team.give('Edda', 'dataset', dataset, 'Wim', 'edit');
  expect(await ran()).toBeNull();
  expect(await rows()).toBe(1);
  await as('Olga', 'PATCH', `/api/people/${team.ids.Wim}`, { off: true });
  served = 'quay,tons\nQuel,1\nHarl,2\n';
  expect(await ran()).toMatch(/^Whoever set this schedule/);
  expect((await set('Edda')).status).toBe(200);
  expect(await ran()).toBeNull();
  expect(await rows()).toBe(2);
});

it('is not set for rows of another dataset by whoever may not have those', async () => {
  const other = await team.imported('Olga', 'Elsewhere');
  expect((await set('Edda', tableAddress(other))).status).toBe(404);
  await team.give('Olga', 'dataset', other, 'Edda', 'edit');
  expect((await set('Edda', tableAddress(other))).status).toBe(422);
  await as('Edda', 'DELETE', `/api/datasets/${dataset}/schedule`);
});
