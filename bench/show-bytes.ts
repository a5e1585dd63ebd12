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
  await page.close();
  return {
    gzipKb: rounded(files.reduce((total, file) => total + file.gzip, 0) / 1000, 1),
    files: files.map((file) => file.name),
  };
}
