import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { expect, keysIn, test } from './fixtures';

/** The script of a page that draws a chart, and what it is made of. */
async function plainScript() {
  const { outputFiles, metafile } = await build({
    entryPoints: [fileURLToPath(new URL('./plain-chart.ts', import.meta.url))],
    bundle: true,
    write: false,
    metafile: true,
    format: 'iife',
    tsconfigRaw: { compilerOptions: { experimentalDecorators: true, useDefineForClassFields: false } },
  });
  return { script: outputFiles[0]!.text, made: Object.keys(metafile.inputs) };
}

test('a chart stands in a plain page, without React: it lights, answers pointer and keyboard, and goes again', async ({
  page,
}) => {
  const { script, made } = await plainScript();
  expect(made.filter((path) => /node_modules\/(react|react-dom|@reduxjs)\//.test(path))).toEqual([]);
  expect(made.filter((path) => path.startsWith('web/'))).toEqual([]);
  await page.setContent('<figure aria-label="Landings" style="width: 600px; height: 400px"></figure>');
  await page.addStyleTag({
    content: 'figure { display: flex; flex-direction: column } .sv-plot { flex: 1; min-height: 0 }',
  });
  await page.addScriptTag({ content: script });
  const chart = page.getByRole('figure', { name: 'Landings' });
  await expect(chart.locator('[data-key]')).toHaveCount(4);
  const caption = chart.locator('figcaption');
  await expect(caption).toHaveText('4 quays, none lit: nothing is picked.');

  await chart.locator('[data-key="Harl"]').click();
  await expect(caption).toHaveText('1 of 4 quays lit: Harl (20).');
  expect(await keysIn(chart, 'lit')).toEqual(['Harl']);
  await expect(chart).toContainText('1 of 4');

  const list = chart.getByRole('listbox', { name: /marks to pick/ });
  await list.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await expect(caption).toHaveText('1 of 4 quays lit: Quel (40).');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(caption).toHaveText('4 quays, none lit: nothing is picked.');
  const heard = await page.evaluate(() => (globalThis as never as { heard: unknown[] }).heard);
  expect(heard).toContainEqual(['quays', ['Harl'], false]);
  expect(heard).toContainEqual(['quays', ['Quel'], false]);
  expect(heard).toContainEqual(['quays', [], false]);

  await chart.evaluate((figure) => {
    figure.style.width = '300px';
  });
  await expect.poll(() => chart.locator('svg').first().getAttribute('width')).toBe('300');
  await page.evaluate(() => (globalThis as never as { view: { destroy(): void } }).view.destroy());
  expect(await chart.evaluate((figure) => figure.childElementCount)).toBe(0);
});

test('a show fetches board, datasets and cubes beside its scripts, each once', async ({ page }) => {
  const asked: string[] = [];
  page.on('request', (request) =>
    asked.push(new URL(request.url()).pathname + new URL(request.url()).search),
  );
  await page.goto('/show/which-routes-carry-the-sound');
  await expect(page.getByRole('figure').first().locator('[data-key]').first()).toBeVisible();
  const data = asked.filter((path) => path.startsWith('/api/'));
  expect(data.filter((path) => path.includes('/cube?')).length).toBeGreaterThan(2);
  expect(data).toHaveLength(new Set(data).size);
  // None waits for another: all are under way before the scripts have been read.
  const lastData = asked.lastIndexOf(data.at(-1)!);
  const afterScripts = asked.findIndex((path) => path.startsWith('/assets/') && path.endsWith('.woff2'));
  expect(lastData).toBeLessThan(afterScripts);
});
