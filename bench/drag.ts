import { plainChart } from '@sorvik/core/testing/documents';
import type { Browser } from 'playwright-core';
import { importCsv, saveBoard } from './make-board';
import { median, quantile, rounded } from './statistics';

const charts = 12;
const marks = 60;
const seconds = 3;

/** A board of many charts that all light the marks within one count. */
async function makeBoard(url: string): Promise<string> {
  const rows = Array.from({ length: marks }, (_, i) => `mark ${i},${((i * 7919) % 1000) + 1.5}`);
  const dataset = await importCsv(url, 'Drag', `mark,n\n${rows.join('\n')}\n`);
  return saveBoard(url, {
    version: 1,
    title: 'Drag',
    levers: [
      {
        kind: 'number',
        id: 'count',
        name: 'Count',
        min: 0,
        max: marks,
        step: 1,
        start: 3,
        outside: 'nearest',
        clearing: 'start',
      },
    ],
    charts: Array.from({ length: charts }, (_, i) =>
      plainChart(dataset, {
        id: `chart-${i}`,
        form: i % 2 ? 'bars' : 'columns',
        by: { field: 'mark' },
        measure: { aggregate: 'sum', field: 'n' },
        order: { by: 'key', direction: i % 3 ? 'ascending' : 'descending' },
        cues: [
          {
            id: 'top',
            effect: 'light',
            condition: { kind: 'rank', count: { lever: 'count' }, side: 'highest', ties: 'share' },
            look: { colour: 'ember', outline: true },
            resting: 'plain',
          },
        ],
      }),
    ),
  });
}

/** Drags a number lever to and fro without a pause: how many frames are painted of those there could be. */
export async function dragBench(browser: Browser, url: string) {
  const board = await makeBoard(url);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/show/${board}`);
  await page.waitForFunction(
    (wanted) => document.querySelectorAll('.sv-mark[data-state]').length === wanted,
    charts * marks,
  );
  const measured = await page.evaluate(
    async ({ seconds, charts }) => {
      const thumb = document.querySelector<HTMLElement>('.sv-thumb')!;
      const slider = thumb.closest<HTMLElement>('.sv-slider')!;
      slider.setPointerCapture = () => {};
      const track = slider.querySelector('.sv-slider-track')!.getBoundingClientRect();
      const y = track.y + track.height / 2;
      const send = (type: string, target: Element, x: number) =>
        target.dispatchEvent(
          new PointerEvent(type, { clientX: x, clientY: y, bubbles: true, button: 0, pointerId: 1 }),
        );
      const litNow = () =>
        [...document.querySelectorAll('figure')].map(
          (figure) => figure.querySelectorAll('[data-state="lit"]').length,
        );
      const nextFrame = () => new Promise<number>((done) => requestAnimationFrame(done));
      const drag = async (milliseconds: number) => {
        const tasks: number[] = [];
        const observer = new PerformanceObserver((list) => {
          for (const entry of list.getEntries()) tasks.push(entry.duration);
        });
        observer.observe({ entryTypes: ['longtask'] });
        const script: number[] = [];
        send('pointerdown', thumb, track.x);
        const started = await nextFrame();
        let frames = 0;
        let x = track.x;
        let now = started;
        while (now - started < milliseconds) {
          const phase = ((now - started) / 1000) % 2;
          x = track.x + track.width * (phase < 1 ? phase : 2 - phase);
          const before = performance.now();
          send('pointermove', slider, x);
          script.push(performance.now() - before);
          now = await nextFrame();
          frames++;
        }
        // Charts out of sight need not follow until the drag is over; then all of them agree.
        send('pointerup', slider, x);
        await nextFrame();
        await new Promise((done) => setTimeout(done, 700));
        const lit = litNow();
        observer.disconnect();
        if (new Set(lit).size !== 1 || lit.length !== charts)
          throw new Error(`the charts do not agree: ${lit.join(', ')}`);
        return { frames, elapsed: now - started, longest: Math.max(0, ...tasks), script };
      };
      await drag(1000);
      // What this page could paint at most: the same time with nothing to do.
      const idleStart = await nextFrame();
      let idle = 0;
      let now = idleStart;
      while (now - idleStart < 1000) {
        now = await nextFrame();
        idle++;
      }
      const possiblePerSecond = (idle * 1000) / (now - idleStart);
      return { ...(await drag(seconds * 1000)), possiblePerSecond };
    },
    { seconds, charts },
  );
  await page.close();
  const possible = (measured.elapsed / 1000) * measured.possiblePerSecond;
  return {
    charts,
    marks,
    frames: measured.frames,
    share: rounded(Math.min(1, measured.frames / possible), 3),
    /** Below 50 ms the browser names no task long: 0 stands for that. */
    longestTaskMs: rounded(measured.longest, 1),
    scriptMedianMs: rounded(median(measured.script), 2),
    scriptP95Ms: rounded(quantile(measured.script, 0.95), 2),
  };
}
