import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import type { Browser, Page } from 'playwright-core';
import { frameHelper } from './in-frame';
import { importCsv, saveBoard } from './make-board';
import { median, quantile, rounded } from './statistics';

const counts = [12, 60, 500, 2000];
const rounds = 120;

declare const inFrame: import('./in-frame').InFrame;

interface Measured {
  /** From a pick's input event to the end of the frame that shows it, ms. */
  frame: number[];
  /** Script alone: from the input event until everything is written, ms. */
  script: number[];
}

/** Makes a board of `count` bars with a pick lever, through the API a user's browser uses. */
async function makeBoard(url: string, count: number): Promise<string> {
  const rows = Array.from(
    { length: count },
    (_, i) => `mark ${String(i).padStart(4, '0')},${((i * 7919) % 1000) + 1.5}`,
  );
  const dataset = await importCsv(url, `Marks ${count}`, `mark,n\n${rows.join('\n')}\n`);
  const document = {
    version: 1,
    title: `Bench ${count}`,
    levers: [plainPick(dataset, 'mark', 'marks', 'Marks')],
    charts: [
      plainChart(dataset, {
        id: 'bars',
        by: { field: 'mark' },
        measure: { aggregate: 'sum', field: 'n' },
        cues: [plainCue('light', 'marks', { colour: 'ember', outline: true })],
        touches: [{ gesture: 'click', lever: 'marks' }],
      }),
    ],
  };
  return saveBoard(url, document);
}

/** Picks marks one after the other by pointer events on the chart itself. */
const measureSorvik = (page: Page, count: number): Promise<Measured> =>
  page.evaluate(
    async ({ count, rounds }) => {
      const svg = document.querySelector('svg[role=listbox]') as SVGSVGElement;
      svg.setPointerCapture = () => {};
      const marks = [...document.querySelectorAll<SVGGElement>('.sv-mark')];
      const measured: Measured = { frame: [], script: [] };
      for (let round = 0; round < rounds; round++) {
        const mark = marks[(round * 5) % Math.min(count, 12)]!;
        const box = mark.querySelector('rect')!.getBoundingClientRect();
        const at = {
          clientX: box.x + 2,
          clientY: box.y + box.height / 2,
          bubbles: true,
          button: 0,
          pointerType: 'mouse',
          pointerId: 1,
        };
        const { script, frame } = await inFrame(() => svg.dispatchEvent(new PointerEvent('pointerdown', at)));
        svg.dispatchEvent(new PointerEvent('pointerup', at));
        if (mark.dataset.state !== 'lit') throw new Error('the mark is not lit');
        measured.script.push(script);
        measured.frame.push(frame);
      }
      return measured;
    },
    { count, rounds },
  );

/** The floor: the same attributes written by hand to a copy of the same drawing in the same page. */
const measureFloor = (page: Page, count: number): Promise<Measured> =>
  page.evaluate(
    async ({ count, rounds }) => {
      const original = document.querySelector('.sv-plot svg') as SVGSVGElement;
      const host = original.parentElement!;
      const copy = original.cloneNode(true) as SVGSVGElement;
      host.replaceChild(copy, original);
      const marks = [...copy.querySelectorAll('.sv-mark')];
      const measured: Measured = { frame: [], script: [] };
      for (let round = 0; round < rounds; round++) {
        const index = (round * 5) % Math.min(count, 12);
        const { script, frame } = await inFrame(() => {
          for (let i = 0; i < marks.length; i++) {
            const lit = i === index;
            marks[i]!.setAttribute('data-state', lit ? 'lit' : 'muted');
            marks[i]!.setAttribute('aria-selected', lit ? 'true' : 'false');
            marks[i]!.setAttribute('data-look', lit ? 'ember outline' : '');
          }
        });
        measured.script.push(script);
        measured.frame.push(frame);
      }
      host.replaceChild(original, copy);
      return measured;
    },
    { count, rounds },
  );

/** What one would reach for: a general chart component, recoloured through its own update until that is painted. */
async function measureApex(page: Page, count: number, apex: string): Promise<Measured> {
  await page.addScriptTag({ content: apex });
  return page.evaluate(
    async ({ count, turns }) => {
      const host = document.createElement('div');
      host.style.cssText = 'position:fixed;inset:0;background:#fff;z-index:99999';
      document.body.append(host);
      const values = Array.from({ length: count }, (_, i) => ((i * 7919) % 1000) + 1.5);
      // biome-ignore lint/suspicious/noExplicitAny: loaded as a script of its own
      const Apex = (window as any).ApexCharts;
      const colours = Array(count).fill('#d8d1c4');
      const chart = new Apex(host, {
        chart: {
          type: 'bar',
          height: 600,
          width: 900,
          animations: { enabled: false },
          toolbar: { show: false },
        },
        plotOptions: { bar: { distributed: true, horizontal: true } },
        legend: { show: false },
        dataLabels: { enabled: false },
        colors: colours,
        series: [{ name: 'n', data: values }],
        xaxis: { categories: values.map((_, i) => `mark ${i}`) },
      });
      await chart.render();
      const measured: Measured = { frame: [], script: [] };
      for (let turn = 0; turn < turns; turn++) {
        const index = turn % count;
        const next = [...colours];
        next[index] = '#b8441c';
        const isDone = () =>
          host.querySelectorAll('.apexcharts-bar-area')[index]?.getAttribute('fill')?.includes('184,68,28');
        const started = performance.now();
        // Colours alone are not taken up; with the series given again they are.
        const update = chart.updateOptions(
          { colors: next, series: [{ name: 'n', data: values }] },
          false,
          false,
        );
        const script = performance.now() - started;
        await update;
        for (let tries = 0; !isDone(); tries++) {
          if (tries > 600) throw new Error('the general component did not recolour its bar');
          await inFrame(() => {});
        }
        const { frame: painting } = await inFrame(() => {});
        measured.script.push(script);
        measured.frame.push(Math.max(painting, performance.now() - started));
      }
      chart.destroy();
      host.remove();
      return measured;
    },
    { count, turns: count > 500 ? 2 : count > 60 ? 4 : 10 },
  );
}

const summary = ({ frame, script }: Measured) => ({
  frameMedian: rounded(median(frame)),
  frameP95: rounded(quantile(frame, 0.95)),
  scriptMedian: rounded(median(script)),
  scriptP95: rounded(quantile(script, 0.95)),
});

/** From a pick's input event to the frame with the new looks, beside the floor and a general component, in one page. */
export async function leverToPaint(browser: Browser, url: string, apex: string) {
  const results = [];
  for (const count of counts) {
    const board = await makeBoard(url, count);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, bypassCSP: true });
    await page.addInitScript(frameHelper);
    await page.goto(`${url}/show/${board}`);
    await page.waitForFunction(
      (wanted) => document.querySelectorAll('.sv-mark[data-state]').length === wanted,
      count,
    );
    await measureSorvik(page, count);
    const sorvik = summary(await measureSorvik(page, count));
    const floor = summary(await measureFloor(page, count));
    const apexCharts = summary(await measureApex(page, count, apex));
    results.push({
      bars: count,
      sorvik,
      floor,
      apexCharts,
      scriptToFloor: rounded(sorvik.scriptMedian / Math.max(0.01, floor.scriptMedian)),
    });
    await page.close();
  }
  return results;
}
