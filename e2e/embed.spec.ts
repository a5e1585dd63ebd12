import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
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
