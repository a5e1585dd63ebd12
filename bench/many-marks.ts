import { plainChart } from '@sorvik/core/testing/documents';
import type { Browser, Page } from 'playwright-core';
import { frameHelper } from './in-frame';
import { importCsv, saveBoard } from './make-board';
import { median, quantile, rounded } from './statistics';

declare const inFrame: import('./in-frame').InFrame;

const lines = 40;
const days = 2200;
const dots = 50_000;
const columns = 50_000;
const inView = 365;
const categories = 10_000;
const few = 10;

/** The time in which charts were painted for the first time: script of all of them together, ms. */
const firstPaint = (page: Page): Promise<number> =>
  page.evaluate(() =>
    performance.getEntriesByName('chart first paint').reduce((sum, { duration }) => sum + duration, 0),
  );

const open = async (browser: Browser, url: string, board: string, charts: number): Promise<Page> => {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(frameHelper);
  await page.goto(`${url}/show/${board}`);
  await page.waitForFunction(
    (wanted) => performance.getEntriesByName('chart first paint').length === wanted,
    charts,
    { timeout: 120_000 },
  );
  await page.waitForTimeout(400);
  return page;
};

const chartOn = (dataset: string, more: object) =>
  plainChart(dataset, { measure: { aggregate: 'sum', field: 'n' }, ...more });

/** Twelve charts of sixty marks each, as a board has them. */
async function twelveCharts(browser: Browser, url: string): Promise<number> {
  const rows = Array.from({ length: 60 }, (_, i) => `mark ${i},${((i * 7919) % 1000) + 1.5}`);
  const dataset = await importCsv(url, 'Twelve', `mark,n\n${rows.join('\n')}\n`);
  const board = await saveBoard(url, {
    version: 1,
    title: 'Twelve',
    levers: [],
    charts: Array.from({ length: 12 }, (_, i) =>
      chartOn(dataset, {
        id: `chart-${i}`,
        form: i % 2 ? 'bars' : 'columns',
        by: { field: 'mark' },
        order: { by: 'value', direction: 'descending' },
      }),
    ),
  });
  const page = await open(browser, url, board, 12);
  const found = await firstPaint(page);
  await page.close();
  return found;
}

/** One of the lines after the other is pointed at: script of each move, ms, and until its frame is painted. */
const pointAtLines = (page: Page, moves: number) =>
  page.evaluate(async (moves) => {
    const svg = document.querySelector<SVGSVGElement>('.sv-plot svg')!;
    const box = svg.getBoundingClientRect();
    const measured = { script: [] as number[], frame: [] as number[] };
    for (let i = 0; i < moves; i++) {
      const at = {
        clientX: box.x + 120 + (i % 40) * 14,
        clientY: box.y + 60 + ((i * 37) % 220),
        bubbles: true,
      };
      const { script, frame } = await inFrame(() => {
        svg.dispatchEvent(new PointerEvent('pointermove', { ...at, pointerType: 'mouse' }));
      });
      measured.script.push(script);
      measured.frame.push(frame);
    }
    return measured;
  }, moves);

/** The window is dragged along in every frame: how many frames are painted of those there could be. */
const scrollWindow = (page: Page, seconds: number): Promise<number> =>
  page.evaluate(async (seconds) => {
    const thumb = document.querySelector<HTMLElement>('[role=scrollbar]')!;
    const nextFrame = () => new Promise<number>((done) => requestAnimationFrame(done));
    const count = async (work: (frame: number) => void, milliseconds: number) => {
      const started = await nextFrame();
      let frames = 0;
      let now = started;
      while (now - started < milliseconds) {
        work(frames);
        now = await nextFrame();
        frames++;
      }
      return (frames * 1000) / (now - started);
    };
    const idle = await count(() => {}, 1000);
    const caption = () => document.querySelector('.sv-plot svg')!.textContent;
    const before = caption();
    const grip = thumb.querySelector('[data-grip]')!;
    const box = grip.getBoundingClientRect();
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    thumb.setPointerCapture = () => {};
    const send = (type: string, by: number) =>
      grip.dispatchEvent(
        new PointerEvent(type, { clientX: x + by, clientY: y, bubbles: true, button: 0, pointerId: 1 }),
      );
    send('pointerdown', 0);
    const scrolled = await count((frame) => send('pointermove', frame % 120), seconds * 1000);
    send('pointerup', 100);
    if (caption() === before) throw new Error('the window did not move');
    return scrolled / idle;
  }, seconds);

async function manyLines(browser: Browser, url: string) {
  const first = Date.UTC(2019, 0, 1);
  const rows: string[] = [];
  for (let line = 0; line < lines; line++)
    for (let day = 0; day < days; day++) {
      const date = new Date(first + day * 86_400_000).toISOString().slice(0, 10);
      const value = 100 + line * 12 + 40 * Math.sin(day / 30 + line) + ((day * 7919 + line * 104_729) % 37);
      rows.push(`${date},line ${line},${value.toFixed(1)}`);
    }
  const dataset = await importCsv(url, 'Lines', `day,line,n\n${rows.join('\n')}\n`);
  const chart = chartOn(dataset, {
    form: 'line',
    by: { field: 'day', grain: 'day' },
    split: { field: 'line', colours: 'one' },
    order: { by: 'key', direction: 'ascending' },
    cues: [
      {
        id: 'pointed',
        effect: 'light',
        condition: { kind: 'focus', of: 'series' },
        look: { colour: 'ember', weight: 'heavy', onTop: true },
        resting: 'plain',
      },
    ],
  });
  const whole = await saveBoard(url, { version: 1, title: 'Lines', levers: [], charts: [chart] });
  const page = await open(browser, url, whole, 1);
  const paint = await firstPaint(page);
  await pointAtLines(page, 20);
  const focus = await pointAtLines(page, 120);
  await page.close();
  const lever = {
    kind: 'window',
    id: 'days',
    name: 'Days in view',
    dataset,
    field: 'day',
    grain: 'day',
    length: inView,
    start: 'first',
    clearing: 'start',
  };
  const windowed = await saveBoard(url, {
    version: 1,
    title: 'Window',
    levers: [lever],
    charts: [{ ...chart, window: { lever: 'days', axis: 'fixed' } }],
  });
  const scrolled = await open(browser, url, windowed, 1);
  const share = await scrollWindow(scrolled, 3);
  await scrolled.close();
  return {
    paint,
    focusScript: median(focus.script),
    focusFrame: median(focus.frame),
    focusFrameP95: quantile(focus.frame, 0.95),
    share,
  };
}

async function manyDots(browser: Browser, url: string): Promise<number> {
  const rows = Array.from(
    { length: dots },
    (_, i) => `dot ${i},${(i * 7919) % 10_007},${(i * 104_729) % 9973}`,
  );
  const dataset = await importCsv(url, 'Dots', `dot,n,m\n${rows.join('\n')}\n`);
  const board = await saveBoard(url, {
    version: 1,
    title: 'Dots',
    levers: [],
    charts: [
      chartOn(dataset, {
        form: 'dots',
        by: { field: 'dot' },
        against: { aggregate: 'sum', field: 'm' },
        order: { by: 'data', direction: 'ascending' },
      }),
    ],
  });
  const page = await open(browser, url, board, 1);
  const painted = await page.evaluate(() => performance.getEntriesByName('chart painted')[0]!.duration);
  await page.close();
  return painted;
}

async function manyColumns(browser: Browser, url: string): Promise<number> {
  const rows = Array.from({ length: columns }, (_, i) => `column ${i},${(i * 7919) % 10_007}`);
  const dataset = await importCsv(url, 'Columns', `column,n\n${rows.join('\n')}\n`);
  const board = await saveBoard(url, {
    version: 1,
    title: 'Columns',
    levers: [],
    charts: [
      chartOn(dataset, {
        form: 'columns',
        by: { field: 'column' },
        order: { by: 'data', direction: 'ascending' },
      }),
    ],
  });
  const page = await open(browser, url, board, 1);
  const painted = await page.evaluate(() => performance.getEntriesByName('chart painted')[0]!.duration);
  await page.close();
  return painted;
}

/** What charts of very many marks cost: painted for the first time, pointed at, scrolled. */
/** The longest task while a show of so many categories opens, the first of the scripts themselves among them, ms; 0 below 50. */
async function longestTask(browser: Browser, url: string, categories: number): Promise<number> {
  const rows = Array.from({ length: categories }, (_, i) => `category ${i},${((i * 7919) % 9973) + 1.5}`);
  const dataset = await importCsv(url, 'Categories', `mark,n\n${rows.join('\n')}\n`);
  const board = await saveBoard(url, {
    version: 1,
    title: 'Categories',
    levers: [],
    charts: [
      chartOn(dataset, {
        id: 'all',
        form: 'bars',
        by: { field: 'mark' },
        order: { by: 'value', direction: 'descending' },
      }),
    ],
  });
  const longest: number[] = [];
  for (let turn = 0; turn < 4; turn++) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(() => {
      const tasks: number[] = [];
      new PerformanceObserver((list) => {
        for (const { duration } of list.getEntries()) tasks.push(duration);
      }).observe({ type: 'longtask', buffered: true });
      Object.assign(window, { tasks });
    });
    await page.goto(`${url}/show/${board}`);
    await page.waitForFunction(() => performance.getEntriesByName('chart first paint').length === 1);
    await page.waitForTimeout(1000);
    const tasks = await page.evaluate(() => (window as unknown as { tasks: number[] }).tasks);
    longest.push(Math.max(0, ...tasks));
    await page.close();
  }
  return median(longest.slice(1));
}

export async function manyMarksBench(
  inBrowser: <T>(measure: (browser: Browser) => Promise<T>) => Promise<T>,
  url: string,
) {
  const twelve = await inBrowser((browser) => twelveCharts(browser, url));
  const line = await inBrowser((browser) => manyLines(browser, url));
  const dotsPaint = await inBrowser((browser) => manyDots(browser, url));
  const longest = await inBrowser((browser) => longestTask(browser, url, categories));
  const longestOfFew = await inBrowser((browser) => longestTask(browser, url, few));
  const columnsPaint = await inBrowser((browser) => manyColumns(browser, url));
  return {
    twelveChartsMs: rounded(twelve, 1),
    lines,
    days,
    linesMs: rounded(line.paint, 1),
    focusScriptMs: rounded(line.focusScript, 1),
    focusFrameMs: rounded(line.focusFrame, 1),
    focusFrameP95Ms: rounded(line.focusFrameP95, 1),
    windowShare: rounded(Math.min(1, line.share), 3),
    dots,
    dotsMs: rounded(dotsPaint, 1),
    columns,
    columnsMs: rounded(columnsPaint, 1),
    categories,
    longestTaskMs: rounded(longest, 1),
    few,
    longestOfFewMs: rounded(longestOfFew, 1),
  };
}
