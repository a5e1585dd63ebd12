import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Page, Request } from '@playwright/test';
import { tableFromArrays, tableToIPC } from 'apache-arrow';
import { build } from 'esbuild';
import { chartNamed, expect, leverNamed, mark, seriousFindings, test } from './fixtures';

const dist = resolve(import.meta.dirname, '../dist');
const pages = () => process.env.SORVIK_PAGES!;
const open = async (page: Page, name: string) => {
  await page.goto(`${pages()}/${name}`);
};

test('a page of another website shows charts, and its own button lights a route in them', async ({
  page,
}) => {
  await open(page, 'ferries.html');
  const routes = chartNamed(page, 'Passengers by route');
  await expect(mark(routes, 'Quel – Ostrin')).toHaveAttribute('data-state', 'lit');
  await expect(page.getByRole('status').filter({ hasText: 'passengers' })).toContainText('Harl – Skarrow');
  await page.getByRole('button', { name: 'show Tarsk – Corvane' }).click();
  await expect(mark(routes, 'Tarsk – Corvane')).toHaveAttribute('data-state', 'lit');
  await expect(mark(routes, 'Quel – Ostrin')).toHaveAttribute('data-state', 'muted');
  await expect(page.getByRole('status').filter({ hasText: 'passengers' })).toContainText('Tarsk – Corvane');
  // All charts of the board answer: the years are of that route alone.
  await expect(chartNamed(page, 'Passengers by year')).toContainText('Only rows of Tarsk – Corvane.');
  expect(await seriousFindings(page)).toEqual([]);
});

test('a press on a mark, and a lever beside, move the charts of the page, and the page hears of it', async ({
  page,
}) => {
  await open(page, 'ferries.html');
  const routes = chartNamed(page, 'Passengers by route');
  await page.evaluate(() => {
    const heard: unknown[] = [];
    Object.assign(window, { heard });
    document.addEventListener('sorvik:move', (event) => heard.push((event as CustomEvent).detail));
  });
  await mark(routes, 'Ostrin – Tarsk').click();
  await expect(mark(routes, 'Ostrin – Tarsk')).toHaveAttribute('data-state', 'lit');
  expect(await page.evaluate(() => (window as unknown as { heard: unknown[] }).heard)).toMatchObject([
    { lever: 'routes', position: ['Ostrin – Tarsk'], positions: { end: 'highest' }, passing: false },
  ]);
  const share = chartNamed(page, 'What share of all passengers is that?');
  await expect(share).toContainText('5 of 14 routes lit');
  const slider = leverNamed(page, 'Counted routes').getByRole('slider');
  await slider.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(share).toContainText('4 of 14 routes lit');
  await expect(leverNamed(page, 'Counted routes')).toContainText('4');
});

test('attributes and positions are where levers stand, from code, moved or taken away', async ({ page }) => {
  await open(page, 'ferries.html');
  const share = chartNamed(page, 'What share of all passengers is that?');
  await expect(share).toContainText('5 of 14 routes lit');
  const inPage = (code: string) => page.evaluate(code);
  await inPage(`document.querySelector('[top]').setAttribute('top', '2')`);
  await expect(share).toContainText('2 of 14 routes lit');
  expect(await inPage(`document.querySelector('[top]').positions`)).toMatchObject({ top: 2, end: 'highest' });
  // It is moved to elsewhere in the page, twice, and goes on.
  await inPage(`document.querySelector('h1').after(document.querySelector('[top]'))`);
  await expect(share).toContainText('2 of 14 routes lit');
  await inPage(`document.querySelector('[top]').positions = { top: 6 }`);
  await expect(share).toContainText('6 of 14 routes lit');
  // What a viewer has moved since stays, also where its attribute says something else.
  await leverNamed(page, 'Counted routes').getByRole('slider').fill('3');
  await expect(share).toContainText('3 of 14 routes lit');
  await inPage(`document.querySelector('main').append(document.querySelector('[top]'))`);
  await expect(share).toContainText('3 of 14 routes lit');
  await inPage(`document.querySelector('[top]').setAttribute('caption', 'off')`);
  await expect(share.locator('figcaption')).toBeHidden();
  const picture = await inPage(`document.querySelector('[top]').picture().then((blob) => blob.text())`);
  expect(picture).toContain('What share of all passengers is that?');
  await inPage(`document.querySelector('[top]').remove()`);
  await expect(share).toHaveCount(0);
});

test('what code says of levers before the board is there holds once it is', async ({ page }) => {
  await open(page, 'depth.html');
  await page.evaluate((src) => {
    const chart = document.createElement('sorvik-chart') as HTMLElement & { positions: object };
    chart.setAttribute('src', src);
    chart.positions = { top: 4, end: 'lowest' };
    document.querySelector('main')!.append(chart);
  }, `${process.env.SORVIK_URL}/show/which-routes-carry-the-sound#share`);
  await expect(chartNamed(page, 'What share of all passengers is that?')).toContainText('4 of 14 routes lit');
});

test('ink that cannot be read is not taken, and whoever makes the page is told', async ({
  page,
  expectNoise,
}) => {
  expectNoise.allow.push(/contrast of/);
  const told: string[] = [];
  page.on('console', (message) => told.push(message.text()));
  await open(page, 'depth.html');
  const title = page.locator('#depths [part="title"]');
  await expect(title).toHaveCSS('color', 'rgb(28, 43, 51)');
  await page.evaluate(() => {
    document.body.style.setProperty('--sorvik-ink', '#dddddd');
    document.getElementById('depths')!.setAttribute('theme', 'light');
  });
  await expect(title).toHaveCSS('color', 'rgb(34, 39, 45)');
  expect(told.filter((text) => /contrast of 1\.\d, which is less than 4\.5/.test(text))).toHaveLength(1);
});

test('what cannot be shown says so in its place', async ({ page, expectNoise }) => {
  expectNoise.allow.push(/Failed to load resource|CORS policy|ERR_|Content Security Policy/);
  await open(page, 'ferries.html');
  await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
  const say = async (src: string, name = 'sorvik-chart') => {
    await page.evaluate(
      ([at, tag]) => {
        const made = document.createElement(tag!);
        made.setAttribute('src', at!);
        made.id = 'made';
        document.getElementById('made')?.remove();
        document.querySelector('main')!.prepend(made);
      },
      [src, name],
    );
    return expect(page.locator('#made [part="message"]'));
  };
  const show = `${process.env.SORVIK_URL}/show`;
  await (await say(`${show}/which-routes-carry-the-sound#nothing`)).toContainText('no chart “nothing”');
  await (await say(`${show}/which-routes-carry-the-sound#nothing`, 'sorvik-lever')).toContainText(
    'no lever “nothing”',
  );
  await (await say(`${show}/no-such-board#by-route`)).toContainText('no longer there');
  await (await say('nothing')).toContainText('has no address');
  await (await say('http://127.0.0.1:9/show/routes#by-route')).toContainText('No answer from');
});

test('a chart of rows of the page asks nothing of any server, and its lever lights it', async ({ page }) => {
  const asked: string[] = [];
  page.on('request', (request) => asked.push(request.url()));
  await open(page, 'depth.html');
  const depths = chartNamed(page, 'Depth at low water');
  await expect(mark(depths, 'Corvane')).toHaveAttribute('data-state', 'lit');
  await expect(depths).toContainText('3 of 8 piers lit');
  const slider = leverNamed(page, 'Draught of the vessel').getByRole('slider');
  await slider.fill('5');
  await expect(depths).toContainText('5 of 8 piers lit');
  // Other rows: the lever stays where it is.
  await page.evaluate(() => {
    const chart = document.getElementById('depths') as HTMLElement & { data: unknown };
    chart.data = [
      { pier: 'Quel', depth: 6.4 },
      { pier: 'O’Harl "old" 🌊', depth: 4.9 },
      { pier: null, depth: null },
    ];
  });
  await expect(depths).toContainText('1 of 3 piers lit: O’Harl "old" 🌊 (4.9 m)');
  expect(asked.filter((url) => url.includes('/api/'))).toEqual([]);
});

test('`light` says how a chart is lit, to whoever draws it', async ({ page }) => {
  await open(page, 'depth.html');
  const lit = await page.evaluate(async (from) => {
    const { light } = await import(`${from}/embed/light.js`);
    const rows = [
      { pier: 'Quel', depth: 6.4 },
      { pier: 'Harl', depth: 4.9 },
      { pier: 'Harl', depth: 1 },
    ];
    const description = {
      levers: [{ kind: 'pick', id: 'piers', field: 'pier', start: [] }],
      charts: [
        {
          by: { field: 'pier' },
          measure: { aggregate: 'sum', field: 'depth' },
          cues: [
            {
              id: 'a',
              effect: 'light',
              condition: { kind: 'member', lever: 'piers' },
              look: {},
              resting: 'plain',
            },
          ],
        },
      ],
    };
    return light(rows, description, { piers: ['Harl'] });
  }, process.env.SORVIK_URL!);
  expect(lit.marks).toEqual([
    { category: 'Quel', value: 6.4, state: 'muted' },
    { category: 'Harl', value: 5.9, state: 'lit' },
  ]);
  expect(lit.caption).toContain('1 of 2 piers lit');
});

test('what a page loads for a chart is under 120 kB, and the package holds all of it', () => {
  const loaded = ['embed.js', ...readdirSync(join(dist, 'web/embed')).map((name) => `embed/${name}`)]
    .filter((name) => /^embed\.js$|\/(main|plot-handles)-[\w-]+\.js$/.test(name))
    .map((name) => gzipSync(readFileSync(join(dist, 'web', name)), { level: 9 }).byteLength);
  expect(loaded).toHaveLength(3);
  expect(loaded.reduce((sum, bytes) => sum + bytes, 0)).toBeLessThan(120_000);
  const told = execFileSync('npm', ['pack', '--dry-run', '--json'], {
    cwd: join(dist, 'package'),
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const [{ files }] = JSON.parse(told) as [{ files: { path: string }[] }];
  const names = files.map(({ path }) => path);
  for (const name of ['embed.js', 'embed.d.ts', 'light.d.ts', 'embed/light.js', 'README.md', 'LICENSE'])
    expect(names).toContain(name);
  expect(names.some((name) => name.startsWith('embed/main-'))).toBe(true);
});

const share = 'What share of all passengers is that?';
const shareSrc = () => `${process.env.SORVIK_URL}/show/which-routes-carry-the-sound#share`;

test('it lives in a React tree as any element does', async ({ page }) => {
  const { outputFiles } = await build({
    stdin: {
      contents: `
        import { StrictMode, useState } from 'react';
        import { createRoot } from 'react-dom/client';
        function Routes({ src }) {
          const [top, setTop] = useState(4);
          const [shown, setShown] = useState(true);
          const [heard, setHeard] = useState('');
          const tell = (element) => {
            const hear = ({ detail }) => setHeard(detail.lit.length + ' lit in React');
            element.addEventListener('sorvik:lit', hear);
            return () => element.removeEventListener('sorvik:lit', hear);
          };
          return <section>
            <button onClick={() => setTop((n) => n + 1)}>one more</button>
            <button onClick={() => setShown(!shown)}>turn</button>
            <output>{heard}</output>
            {shown && <sorvik-chart ref={tell} src={src} positions={{ top }} height="400"><p>on its way</p></sorvik-chart>}
          </section>;
        }
        const root = document.createElement('div');
        document.querySelector('main').replaceChildren(root);
        createRoot(root).render(<StrictMode><Routes src={${JSON.stringify(shareSrc())}} /></StrictMode>);
      `,
      loader: 'jsx',
      resolveDir: import.meta.dirname,
    },
    jsx: 'automatic',
    bundle: true,
    write: false,
    format: 'esm',
    define: { 'process.env.NODE_ENV': '"development"' },
  });
  await page.route('**/depth.js', (route) =>
    route.fulfill({ contentType: 'text/javascript', body: outputFiles[0]!.text }),
  );
  await open(page, 'depth.html');
  const chart = chartNamed(page, share);
  await expect(chart).toContainText('4 of 14 routes lit');
  await expect(page.locator('output')).toHaveText('4 lit in React');
  await page.getByRole('button', { name: 'one more' }).click();
  await expect(chart).toContainText('5 of 14 routes lit');
  await page.getByRole('button', { name: 'turn' }).click();
  await expect(chart).toHaveCount(0);
  await page.getByRole('button', { name: 'turn' }).click();
  await expect(chart).toContainText('5 of 14 routes lit');
  await expect(chart).toHaveCount(1);
});

test('hidden it waits for its room, and on paper it is light', async ({ page }) => {
  await open(page, 'depth.html');
  await page.evaluate((src) => {
    document.querySelector('main')!.innerHTML =
      `<div id="room" hidden><sorvik-chart src="${src}" theme="dark" top="3"></sorvik-chart></div>`;
  }, shareSrc());
  const chart = chartNamed(page, share);
  const element = page.locator('sorvik-chart');
  await expect(element).toHaveCount(1);
  await page.evaluate(`document.getElementById('room').hidden = false`);
  await expect(chart).toContainText('3 of 14 routes lit');
  const plot = chart.locator('svg').first();
  await expect.poll(async () => (await plot.boundingBox())!.width).toBeGreaterThan(400);
  // A frame later hidden, it goes on, and is right when it is seen again.
  await page.evaluate(`document.getElementById('room').hidden = true`);
  await page.evaluate(`document.querySelector('sorvik-chart').positions = { top: 2 }`);
  await page.evaluate(`document.getElementById('room').hidden = false`);
  await expect(chart).toContainText('2 of 14 routes lit');

  const ground = element.locator('[data-bs-theme]');
  await expect(ground).toHaveAttribute('data-bs-theme', 'dark');
  await page.evaluate(`dispatchEvent(new Event('beforeprint'))`);
  await expect(ground).toHaveAttribute('data-bs-theme', 'light');
  expect((await page.pdf()).byteLength).toBeGreaterThan(8000);
  await page.evaluate(`dispatchEvent(new Event('afterprint'))`);
  await expect(ground).toHaveAttribute('data-bs-theme', 'dark');
});

test('rows of the page can be an Arrow file', async ({ page }) => {
  await open(page, 'depth.html');
  const bytes = tableToIPC(
    tableFromArrays({ pier: ['Quel', 'Harl', 'Ness'], depth: Float64Array.from([6.4, 3.1, 2.5]) }),
    'file',
  );
  await page.evaluate(
    (list) => {
      const chart = document.getElementById('depths') as HTMLElement & { data: unknown };
      chart.data = Uint8Array.from(list);
    },
    [...bytes],
  );
  const depths = chartNamed(page, 'Depth at low water');
  await expect(depths).toContainText('2 of 3 piers lit');
  await page.evaluate(() => {
    const chart = document.getElementById('depths') as HTMLElement & { data: unknown };
    chart.data = Uint8Array.from([1, 2, 3]);
  });
  await expect(page.locator('#depths [part="message"]')).toHaveText(
    'Rows are a list of records, or bytes of an Arrow file.',
  );
});

test('a page that nobody sees lets go of its connection, and catches up', async ({ page }) => {
  const following = new Set<string>();
  const follows = (url: string) => url.includes('/api/changes');
  page.on('request', (request) => follows(request.url()) && following.add(request.url()));
  const ended = (request: Request) => follows(request.url()) && following.delete(request.url());
  page.on('requestfailed', ended);
  page.on('requestfinished', ended);
  const turn = (hidden: boolean) =>
    page.evaluate((is) => {
      Object.defineProperty(document, 'hidden', { value: is, configurable: true });
      document.dispatchEvent(new Event('visibilitychange'));
    }, hidden);
  await open(page, 'ferries.html');
  await expect(mark(chartNamed(page, 'Passengers by route'), 'Quel – Ostrin')).toBeVisible();
  await expect.poll(() => following.size).toBe(1);
  await turn(true);
  await expect.poll(() => following.size).toBe(0);
  await turn(false);
  await expect.poll(() => following.size).toBe(1);
});
