import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, importCsv, test } from './fixtures';

let source: Server;
let address: string;
const text = 'day,quay,tons\n2024-03-01,Quel,10\n';

test.beforeAll(async () => {
  source = createServer((_request, response) =>
    response.writeHead(200, { 'content-type': 'text/csv' }).end(text),
  );
  await new Promise<void>((done) => source.listen(0, '127.0.0.1', done));
  address = `http://127.0.0.1:${(source.address() as AddressInfo).port}/landings.csv`;
});
test.afterAll(() => source.close());

test('an address of the own network is refused with the way to allow it; a schedule is set, changed and ended', async ({
  page,
  request,
  expectNoise,
}) => {
  expectNoise.allow.push(/status of 422/);
  const id = await importCsv(request, 'Scheduled landings', text);
  await page.goto(`/datasets/${id}/refresh`);
  await page.getByLabel('Address of the new rows').fill(address);
  await page.getByRole('button', { name: 'Fetch', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('127.0.0.1 is not on the public internet');
  const own = page.getByRole('region', { name: 'By itself' });
  await own.getByLabel('Fetch the rows from').fill(address);
  await own.getByLabel('How often').selectOption({ label: 'Monday to Friday' });
  await own.getByLabel('Time of day').fill('06:30');
  await own.getByLabel('Time zone').selectOption('Europe/Oslo');
  await own.getByRole('button', { name: 'Refresh by itself' }).click();
  await expect(own).toContainText('Not yet. Next:');
  const { schedule } = await (await request.get(`/api/datasets/${id}`)).json();
  expect(schedule).toMatchObject({ cadence: '30 6 * * 1-5', zone: 'Europe/Oslo', mode: 'append' });
  await own.getByRole('button', { name: 'Refresh now' }).click();
  await expect(own).toContainText('The last refresh failed');
  await page.goto('/');
  await expect(
    page.locator(`[data-dataset="${id}"]`).getByRole('link', { name: 'Refresh failed' }),
  ).toBeVisible();
  await page.goto(`/datasets/${id}/refresh`);
  await own.getByRole('button', { name: 'No longer refresh' }).click();
  await expect(own.getByRole('button', { name: 'Refresh by itself' })).toBeVisible();
});

test('rows that a program pushes with a token are on an open show at once, which says of when its data is', async ({
  page,
  request,
}) => {
  const id = await importCsv(request, 'Pushed landings', text);
  await page.goto(`/datasets/${id}/refresh`);
  await page.getByLabel('What the token is for').fill('The scales');
  await page.getByRole('button', { name: 'Make a token' }).click();
  const told = await page.locator('[data-part="new-token"] pre').textContent();
  const token = /Bearer (\S+)"/.exec(told!)![1]!;
  const chart = {
    id: 'tons',
    form: 'bars',
    dataset: id,
    by: { field: 'quay' },
    measure: { aggregate: 'sum', field: 'tons' },
    order: { by: 'key', direction: 'ascending' },
    cues: [],
    guides: [],
    touches: [],
  };
  const board = await request.post('/api/boards', {
    data: { document: { version: 1, title: 'Pushed', levers: [], charts: [chart] } },
  });
  await page.goto(`/show/${(await board.json()).id}`);
  const marks = page.locator('[data-part~="mark"]');
  await expect(marks).toHaveCount(1);
  await expect(page.locator('[data-part="data-stamp"]')).toHaveCount(0);
  const pushed = await request.post(`/api/datasets/${id}/rows`, {
    data: '{"quay":"Ness","tons":3}\n{"quay":"Quel","tons":5}\n',
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/x-ndjson' },
  });
  expect(pushed.status()).toBe(200);
  await expect(marks).toHaveCount(2);
  await expect(page.getByRole('figure').first()).toContainText('15');
  await expect(page.locator('[data-part="data-stamp"]')).toContainText(/^Data of /);
});
