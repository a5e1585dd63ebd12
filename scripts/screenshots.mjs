// npm run screenshots [-- NAME ..]: one picture of each main view, from the demo data; of those that are named, or of all.
import { mkdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { startApplication } from './lib/application.mjs';
import { browserPath, ensureDebianPackages, ensureNodeModules } from './lib/packages.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const views = [
  { name: 'home', path: '/' },
  { name: 'dataset', path: '/datasets/ollen-sound-ferries' },
  { name: 'databases', path: '/databases' },
  { name: 'bench', path: '/boards/which-routes-carry-the-sound' },
  {
    name: 'bench-word',
    path: '/boards/which-routes-carry-the-sound?years=2022-01-01',
    colorScheme: 'dark',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Order: largest first' }).click();
      await page.getByRole('radio', { name: 'smallest first' }).click();
    },
  },
  {
    name: 'show',
    path: '/show/which-routes-carry-the-sound',
    prepare: (page) => page.getByRole('button', { name: 'First moment' }).click(),
  },
  { name: 'show-stretch', path: '/show/what-changed-after-the-new-pier' },
  {
    name: 'show-lines',
    path: '/show/one-route-among-forty',
    colorScheme: 'dark',
    prepare: async (page) => {
      const lines = await page.locator('[data-chart="forty"] .sv-plot svg').boundingBox();
      await page.mouse.move(lines.x + 150, lines.y + 150);
    },
  },
  { name: 'forms', path: '/show/the-sound-form-by-form', height: 1180 },
  { name: 'new-board', path: '/datasets/ollen-sound-ferries/new-board' },
  {
    name: 'show-phone',
    path: '/show/which-routes-carry-the-sound',
    width: 390,
    height: 844,
    prepare: (page) => page.locator('[aria-expanded]').filter({ hasText: 'Routes' }).first().click(),
  },
  {
    name: 'bench-wiring',
    path: '/boards/which-routes-carry-the-sound',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Wiring' }).click();
      await page.locator('[data-from="years"] button').hover();
    },
  },
  {
    name: 'bench-publish',
    path: '/boards/what-changed-after-the-new-pier',
    prepare: async (page) => {
      await page.locator('[data-sentence^="cue-"]').first().hover();
      await page
        .getByRole('button', { name: /^Switch off/ })
        .first()
        .click();
      await page.getByRole('button', { name: 'Publish changes' }).click();
      await page.getByText('Changes since then').waitFor();
    },
  },
  {
    name: 'elsewhere',
    page: 'ferries.html',
    prepare: async (page) => {
      await page.getByRole('figure', { name: 'Passengers by route' }).waitFor();
      await page.getByRole('button', { name: 'show Tarsk – Corvane' }).click();
    },
  },
  {
    name: 'new-rows',
    path: '/datasets/ollen-sound-ferries/refresh',
    prepare: async (page) => {
      const head = 'Date,Route,Vessel,Fare type,Passengers,Mean load,Wind';
      const rows = [
        '2026-03-02,Quel – Ostrin,Tern,adult,41,62,5',
        '2026-03-02,Harl – Vemmen,Heron,child,12,,7',
      ];
      await page.getByLabel('File with new rows').setInputFiles({
        name: 'Sailings of today.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(`${head}\n${rows.join('\n')}\n`),
      });
      await page.getByRole('button', { name: /Append/ }).waitFor();
      await page.getByRole('region', { name: /^Import of/ }).scrollIntoViewIfNeeded();
    },
  },
  { name: 'show-rehearsal', path: '/show/if-fares-rose?against=Harl%20%E2%80%93%20Skarrow' },
  {
    name: 'bench-formula',
    path: '/boards/if-fares-rose',
    prepare: async (page) => {
      await page.getByRole('button', { name: /^Further measure/ }).click();
      await page.getByRole('textbox', { name: 'Formula' }).waitFor();
    },
  },
  {
    name: 'bench-workings',
    path: '/boards/who-leads-who-trails',
    prepare: async (page) => {
      await page.getByRole('tab', { name: 'Workings' }).click();
      await page.getByRole('button', { name: 'Try other lever positions' }).click();
      const trial = page.getByRole('region', { name: 'Trial positions' });
      await trial.getByRole('textbox', { name: 'Count, typed' }).fill('5');
      await trial.getByRole('textbox', { name: 'Count, typed' }).press('Enter');
    },
  },
  {
    name: 'bench-lever',
    path: '/boards/where-do-we-leave-the-corridor',
    prepare: (page) => page.getByRole('button', { name: 'Edit Corridor', exact: true }).click(),
  },
];

await run(async () => {
  await ensureDebianPackages(['postgresql', 'chromium']);
  await ensureNodeModules(root);
  const { chromium } = await import('playwright-core');
  const application = await startApplication(root, 'screenshots');
  const target = join(root, 'docs/screenshots');
  mkdirSync(target, { recursive: true });
  const browser = await chromium.launch({
    executablePath: browserPath(),
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run'],
  });
  try {
    const wanted = process.argv.slice(2);
    const shown = wanted.length ? views.filter(({ name }) => wanted.includes(name)) : views;
    for (const {
      name,
      path,
      page: elsewhere,
      width = 1280,
      height = 800,
      colorScheme = 'light',
      prepare,
    } of shown) {
      const page = await browser.newPage({ viewport: { width, height }, colorScheme });
      await page.goto(elsewhere ? `${application.pages}/${elsewhere}` : `${application.url}${path}`);
      // A page elsewhere hears of changes by a request that does not end.
      if (!elsewhere) await page.waitForLoadState('networkidle');
      await prepare?.(page);
      await page.waitForTimeout(500);
      await page.screenshot({ path: join(target, `${name}.png`) });
      await page.close();
      say(`docs/screenshots/${name}.png`);
    }
  } finally {
    await browser.close();
    await application.stop();
  }
});
