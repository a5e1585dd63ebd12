import type { Browser } from 'playwright-core';
import { median, rounded } from './statistics';

const board = 'which-routes-carry-the-sound';
const openings = 7;

/** Until the first chart of a show can be seen, ms, and how far things were moved until the page stands (cumulative layout shift). */
interface Arrival {
  chartsMs: number;
  shift: number;
}

/** Opens a show in a browser that has its files and has seen it before, slowed down by a factor. */
async function arrivals(browser: Browser, url: string, slowness: number): Promise<Arrival> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.addInitScript(() => {
    const seen = { charts: 0, shift: 0 };
    Object.assign(window, { seen });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) seen.shift += (entry as unknown as { value: number }).value;
    }).observe({ type: 'layout-shift', buffered: true });
    const look = () => {
      const chart = document.querySelector('figure[data-chart] svg [data-part="bar"]');
      if (!chart) return void requestAnimationFrame(look);
      // The frame that it is in has been painted.
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => {
          seen.charts ||= performance.now();
        };
        channel.port2.postMessage(0);
      });
    };
    requestAnimationFrame(look);
  });
  const open = async () => {
    await page.goto(`${url}/show/${board}`);
    await page.waitForFunction(
      () => performance.getEntriesByName('chart first paint').length > 0 && !document.getElementById('drawn'),
      undefined,
      { timeout: 60_000 },
    );
    await page.waitForTimeout(1500);
    return page.evaluate(() => (window as unknown as { seen: { charts: number; shift: number } }).seen);
  };
  // The browser tells its room, and the server draws for it.
  await open();
  await open();
  const session = await context.newCDPSession(page);
  await session.send('Emulation.setCPUThrottlingRate', { rate: slowness });
  const found: { charts: number; shift: number }[] = [];
  for (let opening = 0; opening < openings; opening++) found.push(await open());
  await context.close();
  return {
    chartsMs: rounded(median(found.map(({ charts }) => charts)), 0),
    shift: rounded(Math.max(...found.map(({ shift }) => shift)), 4),
  };
}

/** How soon a show has its charts, on a browser as it is and on one six times as slow. */
export const arrivalBench = async (browser: Browser, url: string) => ({
  plain: await arrivals(browser, url, 1),
  slowed: await arrivals(browser, url, 6),
});
