import type { ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer, type IncomingMessage, request, type ServerResponse } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { removeData, startPostgres } from '../scripts/lib/postgres.mjs';
import { expect, test } from './fixtures';
import { freePort, startApplication } from './global-setup';

/** Under use, a server is killed so often, and so long after another; ms. */
const kills = 6;
const between = 4000;

const password = 'seven brown herons';
let folder: string;
let postgres: { url: string; stop(): Promise<void> };
let origin: string;
let link = '';
/** Where browsers stay. */
let stays = 0;
/** Told of each file that has been passed on. */
let uponUpload = () => {};
const servers: { port: number; child: ChildProcess | null }[] = [];
let proxy: ReturnType<typeof createServer>;

async function start(which: number): Promise<void> {
  const server = servers[which]!;
  const options = ['--team', '--address', origin, '--listen', `127.0.0.1:${server.port}`];
  server.child = await startApplication(
    join(folder, `server-${which}`),
    Number(new URL(origin).port),
    [...options, '--database', postgres.url, '--trust-proxies', '127.0.0.1'],
    (output) => {
      link = /once: (\S+)/.exec(output)?.[1] ?? link;
    },
  );
}

/** Sends a request to one of the servers; where that one is not there, to the other. */
function forward(incoming: IncomingMessage, response: ServerResponse, body: Buffer, order: number[]): void {
  const [first, ...others] = order;
  const outgoing = request(
    {
      port: servers[first!]!.port,
      host: '127.0.0.1',
      method: incoming.method,
      path: incoming.url,
      headers: { ...incoming.headers, 'x-forwarded-for': '198.51.100.7' },
    },
    (answer) => {
      response.writeHead(answer.statusCode!, answer.headers);
      answer.pipe(response);
      answer.on('error', () => response.destroy());
    },
  );
  outgoing.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'ECONNREFUSED' && others.length) forward(incoming, response, body, others);
    else response.destroy();
  });
  outgoing.end(body);
  if (incoming.method === 'POST' && incoming.url?.startsWith('/api/imports?')) uponUpload();
}

test.beforeAll(async () => {
  test.setTimeout(180_000);
  folder = mkdtempSync(join(tmpdir(), 'sorvik-several-'));
  chmodSync(folder, 0o755);
  postgres = await startPostgres(join(folder, 'postgres'));
  let turn = 0;
  proxy = createServer((incoming, response) => {
    const chunks: Buffer[] = [];
    incoming.on('data', (chunk) => chunks.push(chunk));
    incoming.on('end', () => {
      // While it is imported, a file is known to the server that it was sent to: a browser stays with one while it is there.
      const first = incoming.headers.cookie ? stays : turn++ % 2;
      forward(incoming, response, Buffer.concat(chunks), [first, 1 - first]);
    });
  });
  await new Promise<void>((done) => proxy.listen(0, '127.0.0.1', done));
  const address = proxy.address();
  origin = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
  for (const which of [0, 1]) {
    servers.push({ port: await freePort(), child: null });
    await start(which);
  }
});
test.afterAll(async () => {
  for (const { child } of servers)
    if (child && child.exitCode === null && child.signalCode === null) {
      const ended = new Promise((done) => child.once('exit', done));
      child.kill('SIGINT');
      await ended;
    }
  proxy.close();
  proxy.closeAllConnections();
  await postgres.stop();
  removeData(join(folder, 'postgres'));
  rmSync(folder, { recursive: true, force: true });
});

let cookie = '';
const ask = (path: string, { at = origin, ...init }: RequestInit & { at?: string } = {}) =>
  fetch(at + path, {
    ...init,
    headers: { ...(init.method ? { origin } : {}), ...(cookie ? { cookie } : {}), ...init.headers },
    signal: AbortSignal.timeout(20_000),
  });
const send = (method: string, path: string, body: unknown, headers: Record<string, string> = {}) =>
  ask(path, {
    method,
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json', ...headers },
  });

/** Kills a server, and starts it again. */
async function killed(which: number, meanwhile: () => Promise<void> = async () => {}): Promise<void> {
  const { child } = servers[which]!;
  const gone = new Promise((done) => child!.once('exit', done));
  child!.kill('SIGKILL');
  await gone;
  await meanwhile();
  await start(which);
}

test.describe.configure({ mode: 'serial' });

test('two servers on one database know at once what the other does, and one goes on where the other is killed', async () => {
  test.setTimeout(240_000);
  const entered = await send('POST', '/api/invitations/take', {
    token: link.split('#')[1],
    name: 'Olga',
    email: 'olga@example.org',
    password,
  });
  expect(entered.status).toBe(200);
  cookie = entered.headers.get('set-cookie')!.split(';')[0]!;
  const sent = await ask('/api/imports?name=Landings.csv', {
    method: 'POST',
    body: 'quay,tons\nQuel,1\n',
    headers: { 'content-type': 'text/csv' },
  });
  const { id: job } = await sent.json();
  let dataset = '';
  await expect
    .poll(async () => (dataset = (await (await ask(`/api/imports/${job}`)).json()).dataset))
    .toBeTruthy();
  const { token } = await (await send('POST', `/api/datasets/${dataset}/tokens`, { name: 'feed' })).json();
  const document = { version: 1, title: 'Two servers', levers: [], charts: [] };
  const board = (await (await send('POST', '/api/boards', { document })).json()).id;

  await test.step('what one does the other knows at once', async () => {
    const [a, b] = servers.map(({ port }) => `http://127.0.0.1:${port}`);
    const titleAt = async (at: string) =>
      (await (await ask(`/api/boards/${board}`, { at })).json()).document.title;
    for (let i = 1; i <= 5; i++) {
      const patch = [{ op: 'replace', path: '/title', value: `Title ${i}` }];
      const saved = await send('PATCH', `/api/boards/${board}`, patch, { 'if-match': `"${i}"` });
      expect(saved.status).toBe(200);
      for (const at of [a!, b!]) await expect.poll(() => titleAt(at), { intervals: [20] }).toBe(`Title ${i}`);
    }
    const session = async (at: string) => (await (await ask('/api/me', { at })).json()).person?.name;
    expect([await session(a!), await session(b!)]).toEqual(['Olga', 'Olga']);
  });

  await test.step('under use, each is killed in turn, and nothing that was acknowledged is lost', async () => {
    let over = false;
    let pushed = 0;
    let asked = 0;
    const wrong: string[] = [];
    const pushing = async (who: number) => {
      for (let n = 0; !over; n++) {
        const key = `${who}-${n}`;
        // Sent again with the same key until it is acknowledged: it counts once.
        for (let done = false; !done; ) {
          const answer = await fetch(`${origin}/api/datasets/${dataset}/rows`, {
            method: 'POST',
            body: `{"quay":"Harl","tons":${who}}\n{"quay":"Quel","tons":${n}}\n`,
            headers: {
              authorization: `Bearer ${token}`,
              'content-type': 'application/x-ndjson',
              'idempotency-key': key,
            },
          }).catch(() => null);
          done = answer?.status === 200;
          if (answer && ![200, 503].includes(answer.status)) wrong.push(`push ${answer.status}`);
          if (!done) await wait(100);
        }
        pushed += 2;
      }
    };
    const looking = async () => {
      while (!over) {
        const answer = await ask('/api/me').catch(() => null);
        if (answer?.status === 200) {
          // One that breaks off with its server says nothing.
          const me = await answer.json().catch(() => null);
          if (!me) continue;
          asked++;
          if (me.person?.name !== 'Olga') wrong.push('signed out');
        } else if (answer && answer.status !== 503) wrong.push(`me ${answer.status}`);
        await wait(20);
      }
    };
    const use = [pushing(1), pushing(2), pushing(3), looking(), looking()];
    for (let kill = 0; kill < kills; kill++) {
      await wait(between);
      await killed(kill % 2, () => wait(1000));
    }
    over = true;
    await Promise.all(use);
    expect(wrong).toEqual([]);
    expect(asked).toBeGreaterThan(50);
    expect(pushed).toBeGreaterThan(50);
    for (const { port } of servers) {
      const found = await ask(`/api/datasets/${dataset}`, { at: `http://127.0.0.1:${port}` });
      expect((await found.json()).rows).toBe(1 + pushed);
    }
  });
});

test('a file that is on its way is there once, though its server is killed while it reads it', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const context = await browser.newContext({ baseURL: origin });
  const [name, value] = cookie.split(/=(.*)/s);
  await context.addCookies([{ name: name!, value: value!, url: origin }]);
  const page = await context.newPage();
  await page.goto('/');
  const rows = 400_000;
  const lines = Array.from(
    { length: rows },
    (_, i) => `${i},Quay ${i % 50},${i % 977},${(i * 7919) % 10_007}`,
  );
  const buffer = Buffer.from(`at,quay,tons,crates\n${lines.join('\n')}\n`);
  const passedOn = new Promise<void>((done) => {
    uponUpload = done;
  });
  await page
    .getByLabel('Data or board file')
    .setInputFiles({ name: 'Many.csv', mimeType: 'text/csv', buffer });
  await passedOn;
  uponUpload = () => {};
  // It has begun to read by then, and is far from its end.
  await wait(300);
  await killed(stays, async () => {
    stays = 1 - stays;
    const card = page.getByRole('region', { name: 'Import of Many.csv' });
    await expect(card.getByText('400,000 rows imported')).toBeVisible({ timeout: 60_000 });
  });
  const found = await (await ask('/api/datasets')).json();
  const many = found.filter((each: { name: string }) => each.name === 'Many');
  expect(many.map((each: { rows: number }) => each.rows)).toEqual([rows]);

  await test.step('rows that wait to be taken come once more too', async () => {
    await page.goto('/datasets/many/refresh');
    const more = Buffer.from('at,quay,tons,crates\n1,Quel,2,3\n2,Quel,3,4\n');
    await page
      .getByLabel('File with new rows')
      .setInputFiles({ name: 'More.csv', mimeType: 'text/csv', buffer: more });
    const take = page.getByRole('button', { name: 'Append 2 rows' });
    await expect(take).toBeVisible({ timeout: 30_000 });
    await killed(stays, async () => {
      stays = 1 - stays;
      await take.click();
      // It was not known there: sent again, it waits again.
      await expect(take).toBeEnabled({ timeout: 30_000 });
      await take.click();
      await expect(page.getByText('There are 400,002 rows now.')).toBeVisible({ timeout: 30_000 });
    });
  });
  await context.close();
});
