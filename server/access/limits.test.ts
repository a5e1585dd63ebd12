import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TeamApp, teamApp } from '../testing/team-app';

let team: TeamApp;
let as: TeamApp['as'];
let dataset: string;
const questions = 25;

beforeAll(async () => {
  team = await teamApp({ limits: { questions, uploads: 3, storage: 200_000 } });
  ({ as } = team);
  for (const name of ['Edda', 'Vito']) await team.invited(name);
  dataset = await team.imported('Edda', 'Landings');
  await team.give('Edda', 'dataset', dataset, 'Vito', 'view');
});
afterAll(() => team.t.close());

const ask = (who: string) => as(who, 'GET', `/api/datasets/${dataset}/fields/quay/values?offset=0&limit=5`);

it('whoever asks for too much is told to wait, and nobody else has to', async () => {
  for (let i = 0; i < questions; i++) expect((await ask('Vito')).status).toBe(200);
  const { status, body, headers } = await ask('Vito');
  expect([status, body.type]).toEqual([429, '/problems/too-much-asked']);
  expect(body.detail).toMatch(/More than 25 questions in a minute .* Try again in \d+ seconds?\./);
  expect(Number(headers.get('retry-after'))).toBeGreaterThan(0);
  expect((await ask('Edda')).status).toBe(200);
  // What is no question about data is answered all the same.
  expect((await as('Vito', 'GET', '/api/boards')).status).toBe(200);
});

it('files are counted, and so is the room that they take', async () => {
  const send = (csv: string) =>
    as('Edda', 'POST', '/api/imports?name=More.csv', csv, { 'content-type': 'text/csv' });
  const rows = Array.from({ length: 3000 }, (_, i) => `quay ${i},${i}`).join('\n');
  await team.imported('Edda', 'Large', `quay,tons\n${rows}\n`);
  const full = await send('a,b\n1,2\n');
  expect([full.status, full.body.type]).toEqual([413, '/problems/no-room-left']);
  const late = await send('a,b\n1,2\n');
  expect([late.status, late.body.detail]).toEqual([
    429,
    expect.stringContaining('More than 3 files in an hour'),
  ]);
});
