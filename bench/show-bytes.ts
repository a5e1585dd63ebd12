import { gzipSync } from 'node:zlib';
import type { Browser } from 'playwright-core';
import { rounded } from './statistics';

/** Bytes of JavaScript, gzipped, that a viewer's browser fetches until the first chart is painted. */
export async function showBytes(browser: Browser, url: string) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const files: { name: string; gzip: number }[] = [];
  page.on('response', async (response) => {
    if (!/\.js$/.test(new URL(response.url()).pathname)) return;
    const body = await response.body();
    files.push({ name: new URL(response.url()).pathname, gzip: gzipSync(body, { level: 9 }).length });
  });
  await page.goto(`${url}/show/which-routes-carry-the-sound`);
  await page.waitForSelector('.sv-mark[data-state]');
  await page.waitForLoadState('networkidle');
  // What is asked for once the chart stands there is not what it waited for.
  const before = await page.evaluate(() => {
    const painted = performance.getEntriesByName('chart first paint')[0]!;
    return performance
      .getEntriesByType('resource')
      .filter(({ startTime }) => startTime < painted.startTime + painted.duration)
      .map(({ name }) => new URL(name).pathname);
  });
  await page.close();
  const needed = files.filter(({ name }) => before.includes(name));
  const kb = (list: typeof files) => rounded(list.reduce((total, { gzip }) => total + gzip, 0) / 1000, 1);
  return { gzipKb: kb(needed), allKb: kb(files), files: needed.map(({ name }) => name) };
}
