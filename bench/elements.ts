import type { Browser } from 'playwright-core';
import { frameHelper } from './in-frame';
import { median, quantile, rounded } from './statistics';

declare const inFrame: import('./in-frame').InFrame;

const board = 'which-routes-carry-the-sound';
const openings = 7;
const moves = 60;

/** What a page of another website does: it has one chart in it and nothing else. */
const scriptOf = (server: string) =>
  `document.querySelector('main').innerHTML =
    '<sorvik-chart src="${server}/show/${board}#share" top="5" height="460"></sorvik-chart>'`;

interface Chart extends HTMLElement {
  positions: object;
  litMarks: readonly unknown[];
}

/**
 * A chart on a page elsewhere: script until it is painted, in a browser that has nothing of it, and how long after code has
 * set a lever the chart is painted so, ms; `inNext` of how many moves were in the very next frame.
 */
export async function elementsBench(browser: Browser, { server, pages }: { server: string; pages: string }) {
  const scripts: number[] = [];
  const paints: number[] = [];
  const frames: number[] = [];
  let inNext = 0;
  for (let opening = 0; opening < openings; opening++) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.addInitScript(frameHelper);
    await page.route(`${pages}/depth.js`, (route) =>
      route.fulfill({ contentType: 'text/javascript', body: scriptOf(server) }),
    );
    const measured = await context.newCDPSession(page);
    await measured.send('Performance.enable');
    await page.goto(`${pages}/depth.html`);
    const painted = await page.waitForFunction(
      () => performance.getEntriesByName('chart first paint')[0]?.toJSON(),
      undefined,
      { polling: 'raf' },
    );
    const { metrics } = await measured.send('Performance.getMetrics');
    scripts.push(1000 * metrics.find(({ name }) => name === 'ScriptDuration')!.value);
    const { startTime, duration } = (await painted.jsonValue()) as PerformanceEntry;
    paints.push(startTime + duration);
    if (opening === openings - 1) {
      const moved = await page.evaluate(async (count) => {
        const chart = document.querySelector<Chart>('sorvik-chart')!;
        const found: { frame: number; inNext: boolean }[] = [];
        for (let i = 0; i < count; i++) {
          const top = 1 + (i % 12);
          const { frame } = await inFrame(() => {
            chart.positions = { top };
          });
          found.push({ frame, inNext: chart.litMarks.length === top });
        }
        return found;
      }, moves);
      frames.push(...moved.map(({ frame }) => frame));
      inNext = moved.filter((each) => each.inNext).length;
    }
    await context.close();
  }
  return {
    scriptMs: rounded(median(scripts), 0),
    paintMs: rounded(median(paints), 0),
    frameMs: rounded(median(frames), 1),
    frameP95Ms: rounded(quantile(frames, 0.95), 1),
    inNext,
    moves,
  };
}
