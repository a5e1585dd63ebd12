import { plainChart } from '@sorvik/core/testing/documents';
import { type Browser, chromium, type Page } from 'playwright-core';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { browserPath } from '../scripts/lib/packages.mjs';
import { importCsv, saveBoard } from './make-board';
import { rounded } from './statistics';

const routes = ['Quel – Ostrin', 'Harl – Vemmen', 'Ostrin – Tarsk', 'Vemmen – Brask', 'Ilvoe – Fennow'];
const batch = 100;
const pause = 250;
/** What may happen to a server takes so long to be over, ms. */
const patience = 60_000;

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

export interface Soaked {
  url: string;
  /** Kills the whole application without a word, and starts it again. */
  killServer(): Promise<void>;
  killDatabase(): void;
  query(text: string): Promise<{ rows: Record<string, unknown>[] }>;
}

/** Answers that are told of a show that is wrong. */
const lastAnswers = 12;

/** Keeps what a page was last answered; what was asked without an answer is there as well. */
function answersOf(page: Page): string[] {
  const answers: string[] = [];
  const note = (status: number | string, address: string) => {
    answers.push(`${new Date().toISOString().slice(11, 19)} ${status} ${new URL(address).pathname}`);
    answers.splice(0, answers.length - lastAnswers);
  };
  page.on('response', (response) => note(response.status(), response.url()));
  page.on('requestfailed', (request) => note(request.failure()?.errorText ?? 'failed', request.url()));
  return answers;
}

/** Figures of the chart of a page, by route, as they stand beside its bars. */
const figuresOf = (page: Page): Promise<Record<string, number>> =>
  page.evaluate(() =>
    Object.fromEntries(
      [...document.querySelectorAll('figure table tr')].flatMap((row) => {
        const cells = [...row.querySelectorAll('th, td')].map((cell) => cell.textContent ?? '');
        const figure = Number((cells[1] ?? '').replaceAll(',', ''));
        return row.querySelector('td') && Number.isFinite(figure) ? [[cells[0]!, figure]] : [];
      }),
    ),
  );

/**
 * Pushes rows and refreshes by key for so many minutes while shows are open, and kills server and database in between. At
 * the end each row that was acknowledged is there once, and each open show shows what PostgreSQL adds up.
 */
export async function soak(app: Soaked, minutes: number, shows: number, say: (text: string) => void) {
  const { url } = app;
  const dataset = await importCsv(
    url,
    'Soak',
    `route,n,batch\n${routes.map((route) => `${route},0,start`).join('\n')}\n`,
  );
  const { token } = await (
    await fetch(`${url}/api/datasets/${dataset}/tokens`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'Soak' }),
    })
  ).json();
  const board = await saveBoard(url, {
    version: 1,
    title: 'Soak',
    levers: [],
    charts: [plainChart(dataset, { by: { field: 'route' }, measure: { aggregate: 'sum', field: 'n' } })],
  });
  const browser: Browser = await chromium.launch({
    executablePath: browserPath(),
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const pages: Page[] = [];
  const answers: string[][] = [];
  for (let i = 0; i < shows; i++) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    answers.push(answersOf(page));
    await page.goto(`${url}/show/${board}`);
    await page.getByRole('button', { name: /^List the values/ }).click();
    pages.push(page);
  }
  let acknowledged = routes.length;
  let replaced = 0;
  let tries = 0;
  let failures = 0;
  /** Sends until it is acknowledged: under one key it is done once, whatever became of the answers before. */
  const push = async (lines: object[], query: string, key: string) => {
    const until = Date.now() + patience;
    for (;;) {
      tries++;
      try {
        const response = await fetch(`${url}/api/datasets/${dataset}/rows${query}`, {
          method: 'POST',
          headers: {
            authorization: `Bearer ${token}`,
            'content-type': 'application/x-ndjson',
            'idempotency-key': key,
          },
          body: lines.map((line) => JSON.stringify(line)).join('\n'),
          signal: AbortSignal.timeout(10_000),
        });
        const answer = await response.json();
        if (response.ok) return answer as { rows: number; replaced: number };
        if (response.status < 500) throw new Error(`refused: ${answer.detail}`);
      } catch (error) {
        if (String((error as Error).message).startsWith('refused') || Date.now() > until) throw error;
      }
      failures++;
      await wait(300);
    }
  };
  const end = Date.now() + minutes * 60_000;
  let kills = 0;
  const killing = (async () => {
    while (Date.now() < end - 30_000) {
      await wait(25_000);
      if (Date.now() >= end - 30_000) return;
      if (kills++ % 2) {
        say('the database is killed');
        app.killDatabase();
      } else {
        say('the server is killed');
        await app.killServer();
      }
    }
  })();
  let turn = 0;
  for (; Date.now() < end; turn++) {
    const isMerge = turn % 10 === 9;
    const name = isMerge ? `batch ${Math.max(0, turn - 5)}` : `batch ${turn}`;
    const lines = Array.from({ length: batch }, (_, i) => ({
      route: routes[(turn + i) % routes.length],
      n: (turn * 7 + i) % 11,
      batch: name,
    }));
    const answer = await push(lines, isMerge ? '?mode=merge&by=batch' : '', `push ${turn}`);
    acknowledged += answer.rows - answer.replaced;
    replaced += answer.replaced;
    await wait(pause);
  }
  await killing;
  await wait(5000);
  const { rows: counted } = await app.query('SELECT count(*)::int AS n FROM data.soak');
  const { rows: sums } = await app.query('SELECT route, sum(n)::int AS n FROM data.soak GROUP BY 1');
  const wanted = Object.fromEntries(sums.map(({ route, n }) => [String(route), Number(n)]));
  const wrong: string[] = [];
  for (const [i, page] of pages.entries()) {
    const until = Date.now() + 30_000;
    let shown = await figuresOf(page);
    while (
      JSON.stringify(Object.entries(shown).sort()) !== JSON.stringify(Object.entries(wanted).sort()) &&
      Date.now() < until
    ) {
      await wait(500);
      shown = await figuresOf(page);
    }
    if (Date.now() >= until)
      wrong.push(`show ${i}: ${JSON.stringify(shown)}, after ${answers[i]!.join(', ')}`);
  }
  await browser.close();
  const inTable = Number(counted[0]!.n);
  return {
    minutes: rounded(minutes, 1),
    pushes: turn,
    tries,
    failures,
    kills,
    replaced,
    acknowledged,
    inTable,
    shows,
    wanted,
    wrong,
    ok: inTable === acknowledged && wrong.length === 0,
  };
}
