import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { expect, seriousFindings, test } from './fixtures';
import { freePort, startApplication } from './global-setup';

const password = 'seven brown herons';
const stop: (() => Promise<void>)[] = [];
let url: string;
let link: string;

test.beforeAll(async () => {
  test.setTimeout(120_000);
  const folder = mkdtempSync(join(tmpdir(), 'sorvik-team-'));
  const port = await freePort();
  url = `http://127.0.0.1:${port}`;
  let output = '';
  const child = await startApplication(folder, port, ['--team', '--address', url], (text) => {
    output = text;
  });
  link = /once: (\S+)/.exec(output)![1]!;
  stop.push(async () => {
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGINT');
    await ended;
    rmSync(folder, { recursive: true, force: true });
  });
});
test.afterAll(async () => {
  for (const each of stop) await each();
});

/** A browser of somebody's own. */
async function browserOf(browser: Browser): Promise<Page> {
  return (await browser.newContext({ baseURL: url })).newPage();
}
async function follow(page: Page, address: string, name: string) {
  await page.goto(address);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Email').fill(`${name.toLowerCase()}@example.org`);
  await page.getByLabel('New password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('button', { name, exact: true })).toBeVisible();
}

test('a team comes in, shares a board, and each sees what they may', async ({ browser }) => {
  test.setTimeout(180_000);
  const olga = await browserOf(browser);
  await follow(olga, link, 'Olga');

  await test.step('owners invite', async () => {
    await olga.getByRole('link', { name: 'People' }).click();
    await olga.getByRole('button', { name: 'Make an invitation link' }).click();
    expect(await seriousFindings(olga)).toEqual([]);
  });
  const invitation = await olga.getByLabel('Invitation link').inputValue();
  const vito = await browserOf(browser);
  await follow(vito, invitation, 'Vito');
  await expect(vito.getByRole('link', { name: 'People' })).toHaveCount(0);

  const headers = { origin: url };
  const csv = Buffer.from('quay,tons\nQuel,4\nHarl,6\n');
  const sent = await olga.request.post('/api/imports?name=Landings.csv', {
    data: csv,
    headers: { ...headers, 'content-type': 'text/csv' },
  });
  const job = (await sent.json()).id;
  const done = async () => (await (await olga.request.get(`/api/imports/${job}`)).json()).dataset;
  await expect.poll(done).toBe('landings');
  const made = await olga.request.post('/api/boards', {
    headers,
    data: { document: { version: 1, title: 'What was landed', levers: [], charts: [] } },
  });
  expect(made.status()).toBe(201);
  const { id } = await made.json();

  await test.step('nobody else sees a board that is not shared', async () => {
    await vito.goto('/');
    await expect(vito.getByRole('heading', { name: 'Boards' })).toBeVisible();
    await expect(vito.getByRole('link', { name: /What was landed/ })).toHaveCount(0);
    expect((await vito.request.get(`/api/boards/${id}/shown`)).status()).toBe(404);
  });

  await test.step('it is shared on its bench', async () => {
    await olga.goto(`/boards/${id}`);
    await olga.getByRole('button', { name: 'Share' }).click();
    const share = olga.getByRole('dialog', { name: 'Who may do what' });
    await share.getByLabel('Share with').selectOption({ label: 'Vito (vito@example.org)' });
    await share.getByRole('button', { name: 'Share' }).click();
    await expect(share.getByLabel('What Vito may do')).toHaveValue('view');
    expect(await seriousFindings(olga, '[role="dialog"]')).toEqual([]);
  });

  await test.step('then its viewer has it at home, and opens what is shown', async () => {
    await vito.goto('/');
    await vito.getByRole('link', { name: /What was landed/ }).click();
    await expect(vito).toHaveURL(/\/show\//);
    await expect(vito.getByRole('heading', { name: 'What was landed' })).toBeVisible();
    expect((await vito.request.get(`/api/boards/${id}`)).status()).toBe(403);
  });

  await test.step('what was done is written down', async () => {
    await olga.goto('/people');
    const trail = olga.getByRole('region', { name: 'What was done' });
    await expect(trail.getByText('rights changed · board/what-was-landed')).toBeVisible();
    await expect(trail.getByText('joined').first()).toBeVisible();
  });

  await test.step('whoever is switched off is out at once, and on again after a new password', async () => {
    await olga.getByRole('button', { name: 'Switch Vito off' }).click();
    await expect(olga.getByRole('button', { name: 'Switch Vito on' })).toBeVisible();
    await vito.goto('/');
    await expect(vito.getByRole('heading', { name: 'Sign in to Sorvik' })).toBeVisible();
    expect(await seriousFindings(vito)).toEqual([]);
    await olga.getByRole('button', { name: 'Switch Vito on' }).click();
    await vito.getByLabel('Email').fill('vito@example.org');
    await vito.getByLabel('Password').fill('not this one');
    await vito.getByRole('button', { name: 'Sign in' }).click();
    await expect(vito.getByRole('alert')).toHaveText('Nobody has this address with this password.');
    await vito.getByLabel('Password').fill(password);
    await vito.keyboard.press('Enter');
    await expect(vito.getByRole('button', { name: 'Vito', exact: true })).toBeVisible();
  });

  await test.step('and signs out', async () => {
    await vito.getByRole('button', { name: 'Vito', exact: true }).click();
    await vito.getByRole('button', { name: 'Sign out' }).click();
    await expect(vito.getByRole('heading', { name: 'Sign in to Sorvik' })).toBeVisible();
    expect((await vito.request.get('/api/boards')).status()).toBe(401);
  });
});
