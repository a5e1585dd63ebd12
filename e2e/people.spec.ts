import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { startPages } from '../demo/pages';
import { expect, seriousFindings, test, undrawn } from './fixtures';
import { freePort, startApplication } from './global-setup';

// What one test leaves, the next one goes on from.
test.describe.configure({ mode: 'serial' });

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
  const context = await browser.newContext({ baseURL: url });
  await undrawn(context);
  return context.newPage();
}
async function signIn(olga: Page) {
  await olga.goto('/');
  await olga.getByLabel('Email').fill('olga@example.org');
  await olga.getByLabel('Password').fill(password);
  await olga.keyboard.press('Enter');
  await expect(olga.getByRole('button', { name: 'Olga', exact: true })).toBeVisible();
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

  await test.step('those who work at it see each other, and what each changes', async () => {
    await olga.goto(`/boards/${id}`);
    await olga.getByRole('button', { name: 'Share' }).click();
    const share = olga.getByRole('dialog', { name: 'Who may do what' });
    await share.getByLabel('What Vito may do').selectOption('edit');
    await expect(share.getByLabel('What Vito may do')).toHaveValue('edit');
    await share.getByText('Which 2 people that is, and why').click();
    await expect(share.getByRole('listitem').filter({ hasText: 'Vito' }).last()).toContainText(
      'edits it: shared directly',
    );
    await olga.keyboard.press('Escape');
    await vito.goto(`/boards/${id}`);
    await expect(olga.getByText('Also here: Vito')).toBeVisible();
    await expect(vito.getByText('Also here: Olga')).toBeVisible();
    await vito.getByRole('button', { name: '+ Note' }).click();
    await vito.keyboard.type('Crates that were wet');
    await vito.getByLabel('Title of the board').click();
    await expect(olga.getByText('Crates that were wet')).toBeVisible();
    await olga.getByLabel('Title of the board').fill('What was landed, and where');
    await olga.keyboard.press('Enter');
    await expect(vito.getByLabel('Title of the board')).toHaveValue('What was landed, and where');
    // A step back takes back what one did oneself, and nothing of the other.
    await vito.getByRole('button', { name: 'Undo' }).click();
    await expect(vito.getByText('Crates that were wet')).toHaveCount(0);
    await expect(olga.getByText('Crates that were wet')).toHaveCount(0);
    await expect(vito.getByLabel('Title of the board')).toHaveValue('What was landed, and where');
    expect(await seriousFindings(olga)).toEqual([]);
    await vito.goto('/');
    await expect(olga.getByText('Also here:')).toHaveCount(0);
  });

  await test.step('and at home it is shared too', async () => {
    await olga.goto('/');
    await olga.getByRole('button', { name: 'Share What was landed, and where' }).click();
    const share = olga.getByRole('dialog', { name: 'Who may do what' });
    await share.getByLabel('What Vito may do').selectOption('view');
    await expect(share.getByLabel('What Vito may do')).toHaveValue('view');
    expect(await seriousFindings(olga, '[role="dialog"]')).toEqual([]);
  });

  await test.step('what was done is written down', async () => {
    await olga.goto('/people');
    const trail = olga.getByRole('region', { name: 'What was done' });
    await expect(trail.getByText('rights changed · board/what-was-landed').first()).toBeVisible();
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

test('rows are left to whom they are for, and a link shows a board to whoever has it', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const olga = await browserOf(browser);
  await signIn(olga);

  await test.step('a group is made of people', async () => {
    await olga.goto('/people');
    const groups = olga.getByRole('region', { name: 'Groups' });
    await groups.getByLabel('Name of a new group').fill('Quel');
    await groups.getByRole('button', { name: 'Make a group' }).click();
    await groups.getByLabel('Add somebody to Quel').selectOption({ label: 'Vito (vito@example.org)' });
    await expect(groups.getByRole('button', { name: 'Take Vito out of Quel' })).toBeVisible();
    expect(await seriousFindings(olga)).toEqual([]);
  });

  const rule = olga.getByRole('region', { name: 'Who sees which rows' });
  await test.step('a rule is tried as somebody, then kept', async () => {
    await olga.goto('/datasets/landings');
    await rule.getByRole('button', { name: 'quay = ANY (:person_groups)' }).click();
    await rule.getByLabel('What would … see').selectOption({ label: 'Vito (vito@example.org)' });
    await expect(rule.getByText('Vito sees 1 of 2 rows.')).toBeVisible();
    await expect(rule.getByRole('table').getByText('Quel')).toBeVisible();
    await rule.getByLabel('What would … see').selectOption({ label: 'Olga (olga@example.org)' });
    await expect(rule.getByText('Olga owns it, and sees all 2 rows.')).toBeVisible();
    await rule.getByRole('button', { name: 'Keep this rule' }).click();
    await expect(rule.getByText('Whoever does not own this dataset sees the rows')).toBeVisible();
    expect(await seriousFindings(olga)).toEqual([]);
  });

  const chart = plainChart('landings', {
    by: { field: 'quay' },
    measure: { aggregate: 'sum', field: 'tons' },
    cues: [plainCue('light', 'quays')],
  });
  const pick = plainPick('landings', 'quay', 'quays', 'Quays');
  const made = await olga.request.post('/api/boards', {
    headers: { origin: url },
    data: { document: { version: 1, title: 'Tons by quay', levers: [pick], charts: [chart] } },
  });
  const { id } = await made.json();

  let address = '';
  await test.step('a published board has a link', async () => {
    await olga.goto(`/boards/${id}`);
    await olga.getByRole('button', { name: 'Publish' }).click();
    await olga.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
    await olga.getByRole('button', { name: 'Share', exact: true }).click();
    const links = olga.getByRole('dialog').getByRole('region', { name: 'Links' });
    await links.getByRole('button', { name: 'Make a link' }).click();
    await links.getByLabel('Who it is for').fill('Harbour office');
    await links.getByLabel('Password, if one is wanted').fill('three grey seals');
    await links.getByRole('button', { name: 'Make the link' }).click();
    address = await links.getByLabel('Link for Harbour office').inputValue();
    expect(await seriousFindings(olga, '[role="dialog"]')).toEqual([]);
    await links.getByRole('button', { name: 'Done' }).click();
    await expect(links.getByText('not used yet')).toBeVisible();
  });

  const guest = await browserOf(browser);
  await test.step('whoever has it sees the board, and no row that is for somebody', async () => {
    await guest.goto(address);
    await expect(guest.getByRole('heading', { name: 'This link has a password' })).toBeVisible();
    expect(await seriousFindings(guest)).toEqual([]);
    await guest.getByLabel('Password', { exact: true }).fill('three grey sharks');
    await guest.getByRole('button', { name: 'Open' }).click();
    await expect(guest.getByRole('alert')).toHaveText('This is not the password of the link.');
    await guest.getByLabel('Password', { exact: true }).fill('three grey seals');
    await guest.keyboard.press('Enter');
    await expect(guest.getByRole('heading', { name: 'Tons by quay', level: 1 })).toBeVisible();
    await expect(guest.getByText('No quays to show.')).toBeVisible();
    await rule.page().goto('/datasets/landings');
    await rule.getByRole('textbox', { name: 'Who sees which rows' }).click();
    await olga.keyboard.press('ControlOrMeta+a');
    await olga.keyboard.type("quay = 'Harl' OR quay = ANY (:person_groups)");
    await rule.getByRole('button', { name: 'Keep this rule' }).click();
    await expect(rule.getByRole('button', { name: 'Keep this rule' })).toBeDisabled();
    await guest.reload();
    await expect(guest.locator('[data-key="Harl"]').first()).toBeVisible();
    await expect(guest.locator('[data-key="Quel"]')).toHaveCount(0);
    expect((await guest.request.get('/api/datasets/landings/rows?offset=0&limit=9')).status()).toBe(401);
    await guest.getByRole('button', { name: 'Copy link' }).waitFor();
  });

  await test.step('withdrawn, it is over at once, also where it is open', async () => {
    await olga.goto(`/boards/${id}`);
    await olga.getByRole('button', { name: 'Share', exact: true }).click();
    const links = olga.getByRole('dialog').getByRole('region', { name: 'Links' });
    await expect(links.getByText('used once')).toBeVisible();
    await links.getByRole('button', { name: 'Withdraw the link Harbour office' }).click();
    await expect(guest.getByText('This link has ended, or was withdrawn.')).toBeVisible();
    await guest.goto(address);
    await expect(guest.getByRole('heading', { name: 'This link does not work any more' })).toBeVisible();
  });
});

test('a link in an address shows a board, and shows it in a frame of the page that it names', async ({
  browser,
}) => {
  const pages = await startPages(resolve(import.meta.dirname, '../demo/pages'), url, 0);
  stop.push(() => pages.close());
  const olga = await browserOf(browser);
  await signIn(olga);
  const chart = plainChart('landings', {
    by: { field: 'quay' },
    measure: { aggregate: 'sum', field: 'tons' },
  });
  const asked = { headers: { origin: url } };
  const described = {
    version: 1,
    title: 'Tons elsewhere',
    levers: [plainPick('landings', 'quay', 'quays', 'Quays')],
    charts: [{ ...chart, cues: [plainCue('light', 'quays')] }],
  };
  const made = await olga.request.post('/api/boards', { ...asked, data: { document: described } });
  const { id } = await made.json();
  await olga.request.post(`/api/boards/${id}/publish`, { ...asked, data: { revision: 1 } });
  const linked = await olga.request.post(`/api/boards/${id}/links`, {
    ...asked,
    data: { name: 'Quay office', days: 7, origins: [pages.origin] },
  });
  const { path, link } = await linked.json();
  const show = `/show/${id}?link=${path.split('#')[1]}`;

  const guest = await browserOf(browser);
  await guest.goto(show);
  await guest.getByRole('option', { name: /^Harl/ }).click();
  await expect(guest).toHaveURL(/link=[\w-]{43}&quays=Harl$/);
  await guest.reload();
  await expect(guest.locator('[data-key="Harl"]').first()).toHaveAttribute('data-state', 'lit');

  const reader = await browserOf(browser);
  await reader.goto(`${pages.origin}/board.html`);
  await reader.evaluate((src) => {
    document.querySelector('iframe')!.src = src;
  }, `${url}${show}&embed`);
  const board = reader.frameLocator('iframe');
  await expect(board.locator('[data-key="Harl"]').first()).toBeVisible();
  await olga.request.delete(`/api/boards/${id}/links/${link.id}`, asked);
  await expect(board.getByText('This link has ended, or was withdrawn.')).toBeVisible();
  await guest.reload();
  await expect(guest.getByRole('heading', { name: 'This board cannot be shown' })).toBeVisible();
  await expect(guest.getByText('This link has ended, or was withdrawn.')).toBeVisible();
});
