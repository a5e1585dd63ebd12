import { existsSync, readFileSync, rmSync } from 'node:fs';
import { importCsv, saveBoard } from './make-board';
import type { StartedServer } from './server';
import { rounded } from './statistics';

/** Requests of one run, and how many of them wait at a time. */
const requests = 2000;
const atATime = 8;

interface Hostile {
  method: string;
  path: string;
  body?: string;
  headers?: Record<string, string>;
  /** Of a hundred requests, so many are of this sort. */
  share: number;
}

const json = { 'content-type': 'application/json' };

/** A patch that doubles what it copies with every operation. */
const doublings = () =>
  JSON.stringify([
    { op: 'add', path: '/levers/-', value: { text: 'x'.repeat(64) } },
    ...Array.from({ length: 24 }, () => ({ op: 'copy', from: '/levers', path: '/levers/-' })),
  ]);

/** Small requests that ask for much work, and large ones that ask for none. */
function hostileRequests(board: string, dataset: string, version: number): Hostile[] {
  const keys = Array.from({ length: 250_000 }, (_, i) => `"k${i}":1`).join(',');
  const ranges = (from: number) =>
    JSON.stringify({ field: 'n', ranges: Array.from({ length: 1200 }, (_, i) => [from + i, from + i + 3]) });
  const post = (body: string, share: number): Hostile => ({
    method: 'POST',
    path: '/api/boards',
    body,
    headers: json,
    share,
  });
  return [
    {
      method: 'PATCH',
      path: `/api/boards/${board}`,
      body: doublings(),
      headers: { 'content-type': 'application/json-patch+json', 'if-match': '"1"' },
      share: 20,
    },
    post(`{"document":{${keys}}}`, 3),
    post(`{"document":{"version":1,"title":"x","charts":[],"levers":[${'{},'.repeat(1_200_000)}{}]}}`, 3),
    post(`{"document":${'['.repeat(200_000)}${']'.repeat(200_000)}}`, 4),
    post(`{"document":{"version":1,"title":"${'\\u0041'.repeat(600_000)}","levers":[],"charts":[]}}`, 3),
    post('{"document":{"version":1,"title":"\\ud800","levers":[],"charts":[]}}', 17),
    ...[0, 500, 1000].map(
      (from): Hostile => ({
        method: 'GET',
        path: `/api/datasets/${dataset}/cube?version=${version}&key=quay&aggregate=sum.n&keep=${encodeURIComponent(ranges(from))}`,
        share: 4,
      }),
    ),
    { method: 'GET', path: `/api/datasets/${dataset}/rows?offset=1e300`, share: 13 },
    { method: 'GET', path: '/api/boards/%zz', share: 10 },
    {
      method: 'POST',
      path: '/api/imports?name=zeros.csv',
      body: '\0'.repeat(200_000),
      share: 5,
    },
    {
      method: 'POST',
      path: '/api/board-files/zip',
      body: `PK\x03\x04${'\xff'.repeat(100_000)}`,
      share: 10,
    },
  ];
}

/**
 * Sends hostile requests and returns the longest time for which the server's event loop stood still meanwhile, in ms, and
 * how many answers were failures. An answer of 503 says that something took too long: it is meant.
 */
export async function hostileBench({ url, pid, stallFile }: StartedServer) {
  const rows = Array.from({ length: 5000 }, (_, i) => `quay ${i % 40},${i}`).join('\n');
  const dataset = await importCsv(url, 'Hostile', `quay,n\n${rows}\n`);
  const { version } = await (await fetch(`${url}/api/datasets/${dataset}`)).json();
  const board = await saveBoard(url, { version: 1, title: 'Hostile', levers: [], charts: [] });
  const sorts = hostileRequests(board, dataset, version);
  const all = sorts.flatMap((sort) =>
    Array.from({ length: Math.round((sort.share * requests) / 100) }, () => sort),
  );
  // The same order in every run, with the sorts mixed.
  const order = all.map((sort, i) => ({ sort, at: (i * 7919) % all.length })).sort((a, b) => a.at - b.at);
  const longest = async () => {
    rmSync(stallFile, { force: true });
    process.kill(pid, 'SIGUSR2');
    while (!existsSync(stallFile)) await new Promise((done) => setTimeout(done, 20));
    return Number(readFileSync(stallFile, 'utf8'));
  };
  await longest();
  let failures = 0;
  let sent = 0;
  const send = async () => {
    for (let next = order[sent++]; next; next = order[sent++]) {
      const { method, path, body, headers } = next.sort;
      const answer = await fetch(`${url}${path}`, {
        method,
        ...(headers ? { headers } : {}),
        ...(body === undefined ? {} : { body }),
      }).catch(() => null);
      await answer?.arrayBuffer().catch(() => {});
      if (answer && answer.status >= 500 && answer.status !== 503) failures++;
    }
  };
  await Promise.all(Array.from({ length: atATime }, send));
  return { requests: all.length, failures, longestStallMs: rounded(await longest(), 1) };
}
