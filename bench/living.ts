import { createWriteStream, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import * as XLSX from '@e965/xlsx';
import { plainChart } from '@sorvik/core/testing/documents';
import { ollenCsv } from '@sorvik/demo/ollen-csv';
import type { Browser, Page } from 'playwright-core';
import { throughApplication } from './import';
import { saveBoard } from './make-board';
import type { StartedServer } from './server';
import { median, quantile, rounded } from './statistics';

const sheetRows = 100_000;
const batch = 1000;
const appends = 20;
const openShows = 50;
const pages = 3;
const pushSeconds = 15;

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Resident memory of a process and of those that it began, MB. */
function familyMb(pid: number): number {
  const status = (id: number | string) => {
    try {
      return readFileSync(`/proc/${id}/status`, 'utf8');
    } catch {
      return '';
    }
  };
  const mb = (text: string) => Number(/VmRSS:\s+(\d+)/.exec(text)?.[1] ?? 0) / 1024;
  const children = readdirSync('/proc')
    .filter((id) => /^\d+$/.test(id))
    .map(status)
    .filter((text) => new RegExp(`^PPid:\\s+${pid}$`, 'm').test(text) && /^Name:\s+node/m.test(text));
  return mb(status(pid)) + children.reduce((sum, text) => sum + mb(text), 0);
}

/** The rows of a CSV text as records, one a line. */
function* asLines(pieces: Iterable<string>): Generator<string> {
  let names: string[] | null = null;
  for (const piece of pieces) {
    let out = '';
    for (const line of piece.split('\n')) {
      if (!line) continue;
      const cells = line.split(',');
      if (!names) {
        names = cells;
        continue;
      }
      const values = cells.map((cell) =>
        cell === '' ? 'null' : /^-?\d+(\.\d+)?$/.test(cell) ? cell : JSON.stringify(cell),
      );
      out += `{${names.map((name, c) => `${JSON.stringify(name)}:${values[c]}`).join(',')}}\n`;
    }
    yield out;
  }
}

/** The same rows in each format, through the application: rows a second, and memory over idle. */
export async function formatsBench(server: StartedServer, folder: string, dataset: string, rows: number) {
  const parquet = join(folder, 'Sailings.parquet');
  const response = await fetch(`${server.url}/api/datasets/${dataset}/rows.parquet`);
  await pipeline(Readable.fromWeb(response.body as never), createWriteStream(parquet));
  const lines = join(folder, 'Sailings.ndjson');
  await pipeline(Readable.from(asLines(ollenCsv(rows))), createWriteStream(lines));
  const sheet = join(folder, 'Sailings.xlsx');
  const table = [...ollenCsv(sheetRows)]
    .join('')
    .trimEnd()
    .split('\n')
    .map((line) => line.split(',').map((cell) => (/^-?\d+(\.\d+)?$/.test(cell) ? Number(cell) : cell)));
  const book = XLSX.utils.book_new();
  XLSX.utils.book_append_sheet(book, XLSX.utils.aoa_to_sheet(table, { dense: true }), 'Sailings');
  writeFileSync(sheet, XLSX.write(book, { type: 'buffer', bookType: 'xlsx', compression: true }));
  const measured = [];
  for (const [format, file] of [
    ['Parquet', parquet],
    ['NDJSON', lines],
    ['XLSX', sheet],
  ] as const) {
    const idle = familyMb(server.pid);
    let peak = idle;
    const watch = setInterval(() => {
      peak = Math.max(peak, familyMb(server.pid));
    }, 50);
    const run = await throughApplication(server, file);
    clearInterval(watch);
    await fetch(`${server.url}/api/datasets/${run.dataset}`, { method: 'DELETE' });
    measured.push({
      format,
      rows: run.rows,
      fileMb: rounded(statSync(file).size / 1e6, 1),
      rowsPerSecond: Math.round(run.rows / run.seconds),
      memoryOverIdleMb: rounded(peak - idle, 0),
    });
  }
  return measured;
}

/** A viewer without a window: hears of a change, and asks for what its show shows. */
class Follower {
  /** The version that it last had all answers of. */
  at = 0;
  private request;
  private asking = false;
  private wanted = 0;

  constructor(
    private readonly url: string,
    private readonly dataset: string,
    private readonly cubes: readonly string[],
  ) {
    this.request = get(`${url}/api/changes?dataset=${dataset}`, (response) => {
      response.setEncoding('utf8');
      response.on('data', (text: string) => {
        for (const [, version] of text.matchAll(/":(\d+)/g)) this.hear(Number(version));
      });
    });
    this.request.on('error', () => {});
  }

  private hear(version: number): void {
    this.wanted = version;
    if (!this.asking) void this.ask();
  }

  private async ask(): Promise<void> {
    this.asking = true;
    while (this.at < this.wanted) {
      const { version } = await (await fetch(`${this.url}/api/datasets/${this.dataset}`)).json();
      await Promise.all(
        this.cubes.map(async (cube) =>
          (
            await fetch(`${this.url}/api/datasets/${this.dataset}/cube?version=${version}&${cube}`)
          ).arrayBuffer(),
        ),
      );
      this.at = version;
    }
    this.asking = false;
  }

  close(): void {
    this.request.destroy();
  }
}

const rowsFrom = (first: number) =>
  Array.from({ length: batch }, (_, i) => {
    const n = first + i;
    return JSON.stringify({
      date: '2024-12-31',
      departure_hour: 6 + (n % 12),
      route: ['Quel – Ostrin', 'Harl – Vemmen', 'Ostrin – Tarsk'][n % 3],
      vessel: 'Saltwind',
      fare_type: 'visitor',
      passengers: 1 + (n % 300),
      revenue: (n % 3000) / 4,
    });
  }).join('\n');

/** A page that says when it draws something for the first time since it was armed. To ask it all the time would keep it from drawing. */
class DrawingPage {
  /** It has drawn since it was armed. */
  drew = false;

  constructor(readonly page: Page) {}

  async watch(): Promise<void> {
    await this.page.exposeFunction('drew', () => {
      this.drew = true;
    });
    await this.page.evaluate(() => {
      const own = window as unknown as { armed: boolean; drew(): void };
      const observer = new MutationObserver(() => {
        if (own.armed) own.drew();
        own.armed = false;
      });
      observer.observe(document.querySelector('figure svg')!, {
        subtree: true,
        attributes: true,
        characterData: true,
        childList: true,
      });
    });
  }

  async arm(): Promise<void> {
    this.drew = false;
    await this.page.evaluate(() => {
      (window as unknown as { armed: boolean }).armed = true;
    });
  }
}

/**
 * Rows that are pushed: how long until every open show has drawn them, of which some are pages and the others ask as pages
 * do; and how many a second go in while nobody looks.
 */
export async function pushedBench(
  inBrowser: <T>(measure: (browser: Browser) => Promise<T>) => Promise<T>,
  server: StartedServer,
  dataset: string,
) {
  const { token } = await (
    await fetch(`${server.url}/api/datasets/${dataset}/tokens`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'The bench' }),
    })
  ).json();
  const push = async (first: number): Promise<number> => {
    const response = await fetch(`${server.url}/api/datasets/${dataset}/rows`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/x-ndjson' },
      body: rowsFrom(first),
    });
    const answer = await response.json();
    if (!response.ok) throw new Error(answer.detail);
    return answer.version;
  };
  const chart = (id: string, by: object) =>
    plainChart(dataset, { id, title: id, by, measure: { aggregate: 'sum', field: 'passengers' } });
  const board = await saveBoard(server.url, {
    version: 1,
    title: 'Living',
    levers: [],
    charts: [chart('routes', { field: 'route' }), chart('months', { field: 'date', grain: 'month' })],
  });
  const cubes = ['aggregate=sum.passengers&key=route', 'aggregate=sum.passengers&key=date.month'];
  let sent = 0;
  const times = await inBrowser(async (browser) => {
    const opened: DrawingPage[] = [];
    for (let i = 0; i < pages; i++) {
      // Without motion the first thing that is drawn is what has come.
      const page = await browser.newPage({
        viewport: { width: 1280, height: 800 },
        reducedMotion: 'reduce',
      });
      await page.goto(`${server.url}/show/${board}`);
      await page.waitForFunction(() => performance.getEntriesByName('chart first paint').length === 2);
      const drawing = new DrawingPage(page);
      await drawing.watch();
      opened.push(drawing);
    }
    const followers = Array.from(
      { length: openShows - pages },
      () => new Follower(server.url, dataset, cubes),
    );
    await wait(3000);
    const found: number[] = [];
    for (let turn = 0; turn < appends; turn++) {
      await Promise.all(opened.map((each) => each.arm()));
      const started = performance.now();
      const version = await push(sent);
      sent += batch;
      while (!followers.every(({ at }) => at >= version) || !opened.every(({ drew }) => drew)) await wait(5);
      found.push(performance.now() - started);
      await wait(500);
    }
    for (const follower of followers) follower.close();
    return found;
  });
  const until = performance.now() + pushSeconds * 1000;
  const began = performance.now();
  const first = sent;
  while (performance.now() < until) {
    await push(sent);
    sent += batch;
  }
  return {
    shows: openShows,
    appendMs: rounded(median(times), 0),
    appendP95Ms: rounded(quantile(times, 0.95), 0),
    rowsPerSecond: Math.round((1000 * (sent - first)) / (performance.now() - began)),
  };
}
