import { once } from 'node:events';
import { type IncomingMessage, request } from 'node:http';
import { Readable } from 'node:stream';
import { text } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { setTimeout as wait } from 'node:timers/promises';
import type { Board } from '@sorvik/core/board/board';
import busiest from './boards/busiest.json';
import carriers from './boards/carriers.json';
import corridor from './boards/corridor.json';
import fares from './boards/fares.json';
import forty from './boards/forty.json';
import gallery from './boards/gallery.json';
import leaders from './boards/leaders.json';
import now from './boards/now.json';
import pier from './boards/pier.json';
import today from './boards/today.json';
import { ollenCsv } from './ollen-csv';

export { startFeed } from './feed';
export { ollenCsv } from './ollen-csv';
export { startPages } from './pages';

const datasetId = 'ollen-sound-ferries';
const todayId = 'sailings-of-today';
const fileName = 'Ollen Sound Ferries.csv';

/** The demo's boards, the one to be seen first last: home lists what changed last first. */
export const demoBoards = [
  gallery,
  fares,
  now,
  forty,
  pier,
  corridor,
  leaders,
  busiest,
  carriers,
] as unknown as Board[];

/** The board that lives on today's sailings. */
export const todayBoard = today as unknown as Board;

async function json<T>(response: Response): Promise<T> {
  const body = await response.json();
  if (!response.ok) throw new Error(`The demo could not be loaded: ${body.detail ?? response.status}`);
  return body as T;
}

interface ImportState {
  id: string;
  state: string;
  dataset?: string;
  message?: string;
}

/** Sends pieces of a file one by one, as the server takes them: of a large one no more than a few are in memory. */
async function sendCsv(url: string, pieces: Iterable<string>): Promise<ImportState> {
  const sending = request(url, { method: 'POST', headers: { 'content-type': 'text/csv' } });
  const answered = once(sending, 'response') as Promise<[IncomingMessage]>;
  const bytes = function* () {
    for (const piece of pieces) yield Buffer.from(piece);
  };
  await Promise.all([
    pipeline(Readable.from(bytes(), { objectMode: true, highWaterMark: 1 }), sending),
    answered,
  ]);
  const [response] = await answered;
  const body = JSON.parse(await text(response));
  if (response.statusCode !== 201)
    throw new Error(`The demo could not be loaded: ${body.detail ?? response.statusCode}`);
  return body as ImportState;
}

async function importCsv(url: string, name: string, pieces: Iterable<string>): Promise<string> {
  let state = await sendCsv(`${url}/api/imports?name=${encodeURIComponent(name)}`, pieces);
  while (state.state === 'loading') {
    await wait(100);
    state = await json<ImportState>(await fetch(`${url}/api/imports/${state.id}`));
  }
  if (state.state !== 'done' || !state.dataset)
    throw new Error(`The demo data could not be loaded: ${state.message ?? state.state}`);
  return state.dataset;
}

/** Loads the demo into a running server the way a user would: a file through the import, then the boards. Safe to repeat. */
export async function seedDemo(url: string, rows?: number): Promise<void> {
  const datasets = await json<{ id: string }[]>(await fetch(`${url}/api/datasets`));
  const dataset = datasets.some(({ id }) => id === datasetId)
    ? datasetId
    : await importCsv(url, fileName, ollenCsv(rows ?? 150_000));
  const { fields } = await json<{ fields: { key: string }[] }>(await fetch(`${url}/api/datasets/${dataset}`));
  if (!fields.some(({ key }) => key === 'weekday'))
    await json(
      await fetch(`${url}/api/datasets/${dataset}/fields`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'Weekday', formula: 'EXTRACT(ISODOW FROM date)' }),
      }),
    );
  for (const board of demoBoards) await seedBoard(url, board, dataset);
}

const send = (method: string, address: string, body: unknown) =>
  fetch(address, {
    method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

/** Makes and publishes a board of the demo, unless it is there. */
async function seedBoard(url: string, board: Board, dataset: string): Promise<void> {
  const boards = await json<{ document: Board }[]>(await fetch(`${url}/api/boards`));
  if (boards.some(({ document }) => document.title === board.title)) return;
  const document = JSON.parse(
    JSON.stringify(board).replaceAll(`"${board.charts[0]!.dataset}"`, JSON.stringify(dataset)),
  );
  const { id, revision } = await json<{ id: string; revision: number }>(
    await send('POST', `${url}/api/boards`, { document }),
  );
  await json(await send('POST', `${url}/api/boards/${id}/publish`, { revision }));
}

/**
 * Has today's sailings fetched from a feed every minute, and a board that lives on them. The feed is at another address
 * each time: what was there is told of it.
 */
export async function seedFeed(url: string, feed: string): Promise<void> {
  const datasets = await json<{ id: string }[]>(await fetch(`${url}/api/datasets`));
  const known = datasets.some(({ id }) => id === todayId);
  const dataset = known
    ? todayId
    : await importCsv(url, 'Sailings of today.csv', [await (await fetch(feed)).text()]);
  await seedBoard(url, todayBoard, dataset);
  await json(
    await send('PUT', `${url}/api/datasets/${dataset}/schedule`, {
      address: feed,
      mode: 'replace',
      cadence: '* * * * *',
      zone: 'UTC',
    }),
  );
}
