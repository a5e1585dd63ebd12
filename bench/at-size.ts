import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { ollenCsv } from '@sorvik/demo/ollen-csv';
import type { Browser, Locator, Page } from 'playwright-core';
import { importCsv, saveBoard } from './make-board';
import type { StartedServer } from './server';
import { median, quantile, rounded } from './statistics';

type InBrowser = <T>(measure: (browser: Browser) => Promise<T>) => Promise<T>;

const pages = 3;
/** What a chart is changed to be by: the words of the desk, and the same in SQL. */
const words = [
  ['Vessel', 'vessel'],
  ['Fare type', 'fare_type'],
  ['Departure hour', 'departure_hour'],
  ['Capacity', 'capacity'],
  ['Delay', 'delay'],
] as const;
const picks = 60;
const filterMoves = 40;

const top = {
  id: 'top',
  effect: 'light',
  condition: { kind: 'rank', count: { lever: 'count' }, side: 'highest', ties: 'share' },
  look: { colour: 'ember' },
  resting: 'plain',
} as const;
const count = {
  kind: 'number',
  id: 'count',
  name: 'Count',
  min: 0,
  max: 14,
  step: 1,
  start: 3,
  outside: 'nearest',
  clearing: 'start',
};

/** Four charts; what they ask for is in words of their own each time, so that nothing is kept of it. */
function board(dataset: string, turn: number) {
  const measure = {
    aggregate: 'formula',
    text: `SUM(passengers) FILTER (WHERE passengers > ${-1 - turn})`,
    name: 'passengers',
  };
  const chart = (id: string, form: string, by: object) =>
    plainChart(dataset, {
      id,
      title: id,
      form,
      by,
      measure,
      order: { by: 'key', direction: 'ascending' },
      cues: [top],
    });
  return {
    version: 1,
    title: `Large ${turn}`,
    levers: [count],
    charts: [
      chart('routes', 'bars', { field: 'route' }),
      chart('months', 'columns', { field: 'date', grain: 'month' }),
      chart('days', 'line', { field: 'date', grain: 'day' }),
      chart('fares', 'bars', { field: 'fare_type' }),
    ],
  };
}

/** From the address being opened until all charts are painted, ms. */
async function opened(page: Page, url: string, charts: number): Promise<number> {
  await page.goto(url);
  await page.waitForFunction(
    (wanted) => performance.getEntriesByName('chart first paint').length >= wanted,
    charts,
  );
  return page.evaluate(() => {
    const painted = performance.getEntriesByName('chart first paint');
    return Math.max(...painted.map(({ startTime, duration }) => startTime + duration));
  });
}

/** From something done in a page until its first chart has been written to and that is painted, ms. */
async function untilPainted(
  page: Page,
  times: number,
  target: (turn: number) => Locator,
  act: 'click' | 'keys',
): Promise<number[]> {
  const found: number[] = [];
  for (let turn = 0; turn < times; turn++) {
    const element = await target(turn).elementHandle();
    const took = await page.evaluate(
      async ([element, key]) => {
        const plot = document.querySelector('figure svg')!;
        const changed = new Promise<void>((done) => {
          const observer = new MutationObserver(() => {
            observer.disconnect();
            requestAnimationFrame(() => setTimeout(done));
          });
          observer.observe(plot, { subtree: true, childList: true, attributes: true, characterData: true });
        });
        const started = performance.now();
        if (key)
          element!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
        else (element as HTMLElement).click();
        await changed;
        return performance.now() - started;
      },
      [element, act === 'keys' ? (turn % 2 ? 'ArrowLeft' : 'ArrowRight') : null] as const,
    );
    found.push(took);
    await page.waitForTimeout(20);
  }
  return found;
}

/** A chart whose filters have more combinations than a page takes: each move of a list asks the rows. */
const askedBoard = (dataset: string) => {
  return {
    version: 1,
    title: 'Large and asked',
    levers: [
      plainPick(dataset, 'vessel', 'vessels', 'Vessels'),
      plainPick(dataset, 'departure_hour', 'hours', 'Hours'),
      {
        id: 'days',
        name: 'Days',
        kind: 'span',
        dataset,
        field: 'date',
        grain: 'day',
        start: null,
        presets: [],
        outside: 'nearest',
        clearing: 'empty',
      },
    ],
    charts: [
      plainChart(dataset, {
        id: 'routes',
        title: 'routes',
        form: 'bars',
        by: { field: 'route' },
        split: { field: 'fare_type', colours: 'own' },
        measure: { aggregate: 'sum', field: 'passengers' },
        order: { by: 'key', direction: 'ascending' },
        cues: [
          plainCue('filter', 'vessels'),
          plainCue('filter', 'hours'),
          { ...plainCue('filter', 'days'), condition: { kind: 'span', lever: 'days', match: 'touching' } },
        ],
      }),
    ],
  };
};

/** Which one of a list is turned on or off next, so that no set of them comes twice. */
const nextOf = (turn: number) => Math.log2((turn + 1) & -(turn + 1));

/** What a large dataset costs whoever opens, changes and moves charts of it, in a browser. */
export async function atSizeBench(inBrowser: InBrowser, server: StartedServer, dataset: string) {
  const inPage = <T>(path: string, charts: number, measure: (page: Page, ms: number) => Promise<T>) =>
    inBrowser(async (browser) => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      return measure(page, await opened(page, `${server.url}${path}`, charts));
    });
  const openings: number[] = [];
  for (let turn = 0; turn < pages; turn++) {
    const id = await saveBoard(server.url, board(dataset, turn));
    openings.push(await inPage(`/show/${id}`, 4, async (_page, ms) => ms));
  }

  let csv = '';
  for (const part of ollenCsv(10_000)) csv += part;
  const few = await importCsv(server.url, 'Few sailings', csv);
  const lit: number[] = [];
  for (const [i, each] of [dataset, few].entries()) {
    const id = await saveBoard(server.url, board(each, pages + i));
    lit.push(
      await inPage(`/show/${id}`, 4, async (page) => {
        const thumb = page.getByRole('slider', { name: 'Count' });
        return median(await untilPainted(page, picks, () => thumb, 'keys'));
      }),
    );
  }

  const one = board(dataset, pages + 2);
  const desk = await saveBoard(server.url, { ...one, charts: one.charts.slice(0, 1) });
  const changed = await inPage(`/boards/${desk}`, 1, async (page) => {
    const found: number[] = [];
    for (const [name] of words) {
      await page.getByRole('button', { name: /^Category: / }).click();
      const radio = page.getByRole('radio', { name: new RegExp(`^${name}`) }).first();
      found.push(...(await untilPainted(page, 1, () => radio, 'click')));
      await page.keyboard.press('Enter');
    }
    return found;
  });
  const table = await server.tableOf(dataset);
  const alone: number[] = [];
  for (const [, column] of words) {
    const started = performance.now();
    await server.query(
      `SELECT ${column}, sum(passengers) FILTER (WHERE passengers > ${-1 - pages}) FROM ${table} GROUP BY 1`,
    );
    alone.push(performance.now() - started);
  }

  const asked = await saveBoard(server.url, askedBoard(dataset));
  const filtered = await inPage(`/show/${asked}`, 1, async (page) => {
    const options = page.getByRole('group', { name: 'Vessels' }).getByRole('option');
    await options.first().waitFor();
    let requests = 0;
    page.on('request', (request) => {
      if (request.url().includes('/cube?')) requests++;
    });
    const found = await untilPainted(page, filterMoves, (turn) => options.nth(nextOf(turn)), 'click');
    if (requests < filterMoves) throw new Error('The chart holds all of it: nothing was asked.');
    return found;
  });
  return {
    openedMs: rounded(median(openings), 0),
    changedMs: rounded(median(changed), 0),
    changedInPostgresMs: rounded(median(alone), 0),
    litMs: rounded(lit[0]!, 1),
    litFewMs: rounded(lit[1]!, 1),
    litRatio: rounded(lit[0]! / lit[1]!),
    filteredMs: rounded(median(filtered), 0),
    filteredP95Ms: rounded(quantile(filtered, 0.95), 0),
  };
}
