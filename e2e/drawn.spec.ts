import type { Browser, Page } from '@playwright/test';
import { chartNamed, demoBoards, expect, mark, test } from './fixtures';

test.use({ arrivesDrawn: true });

const show = '/show/which-routes-carry-the-sound';
const title = 'Passengers by route';

/** Letters on a coarse screen are put on whole px, as they are not where they are only measured. */
const within = 3;

/** Waits until the server has drawn a show for a window like that of a page. */
async function untilDrawn(page: Page, path = show) {
  await expect
    .poll(async () => (await (await page.request.get(path)).text()).includes('id="drawn"'), {
      timeout: 30_000,
    })
    .toBe(true);
}
/** A page whose own program never comes. */
async function withoutProgram(page: Page) {
  await page.route(/\/assets\/.*\.js$/, (route) => route.abort());
}

test('a show arrives with its charts, before any script, and the page takes over without a shift', async ({
  page,
}) => {
  await page.goto(show);
  await expect(mark(chartNamed(page, title), 'Quel – Ostrin')).toBeVisible();
  // The room of its plots is kept for the next time.
  await expect
    .poll(async () => (await page.context().cookies()).map(({ name }) => name))
    .toContain('sorvik-room');
  await untilDrawn(page);
  await page.addInitScript(() => {
    const seen = { shift: 0, drawn: 0, taken: 0 };
    Object.assign(window, { seen });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) seen.shift += (entry as unknown as { value: number }).value;
    }).observe({ type: 'layout-shift', buffered: true });
    new MutationObserver(() => {
      const drawn = document.getElementById('drawn');
      if (drawn && !seen.drawn) seen.drawn = performance.now();
      if (!drawn && seen.drawn && !seen.taken) seen.taken = performance.now();
    }).observe(document, { childList: true, subtree: true });
  });
  await page.goto(show);
  await page.waitForFunction(() => (window as unknown as { seen: { taken: number } }).seen.taken > 0);
  await expect(mark(chartNamed(page, title), 'Quel – Ostrin')).toBeVisible();
  await page.waitForTimeout(800);
  const { shift, painted } = await page.evaluate(() => ({
    shift: (window as unknown as { seen: { shift: number } }).seen.shift,
    painted: performance.getEntriesByName('first-contentful-paint')[0]!.startTime,
  }));
  expect(shift).toBe(0);
  expect(painted).toBeGreaterThan(0);
  // The page is its own now: it answers to a touch.
  await mark(chartNamed(page, title), 'Ostrin – Tarsk').click();
  await expect(mark(chartNamed(page, title), 'Ostrin – Tarsk')).toHaveAttribute('data-state', 'lit');
});

test('what is drawn is what the page draws, in the same places', async ({ page, expectNoise }) => {
  expectNoise.allow.push(/ERR_FAILED|preload/);
  const seen = () =>
    page.evaluate(() => {
      const at = (element: Element) => {
        const { x, y, width, height } = element.getBoundingClientRect();
        return [x, y, width, height].map(Math.round);
      };
      return [
        ...document.querySelectorAll(
          'main :is(h1, h2, figcaption, [data-part="plot"] text, [data-part="bar"])',
        ),
      ]
        .filter((element) => !element.closest('[aria-hidden="true"]:not(#drawn)'))
        .map((element) => ({ text: element.textContent, at: at(element) }));
    });
  await page.goto(`${show}?routes=Quel+%E2%80%93+Ilvoe`);
  await expect(mark(chartNamed(page, title), 'Quel – Ilvoe')).toHaveAttribute('data-state', 'lit');
  await expect.poll(async () => (await page.context().cookies()).length).toBeGreaterThan(0);
  const own = await seen();
  await untilDrawn(page, `${show}?routes=Quel+%E2%80%93+Ilvoe`);
  await withoutProgram(page);
  await page.reload();
  await expect(page.locator('#drawn figure').first()).toBeVisible();
  const drawn = await seen();
  expect(drawn.map(({ text }) => text)).toEqual(own.map(({ text }) => text));
  const apart = drawn.filter(({ at }, i) => at.some((px, side) => Math.abs(px - own[i]!.at[side]!) > within));
  expect(apart).toEqual([]);
});

/** A browser that runs no scripts. */
const withoutScripts = async (browser: Browser) =>
  (await browser.newContext({ javaScriptEnabled: false, baseURL: process.env.SORVIK_URL! })).newPage();

test('whoever runs no scripts sees charts, captions and values', async ({ browser }) => {
  const page = await withoutScripts(browser);
  await untilDrawn(page);
  await page.goto(show);
  const chart = chartNamed(page, title);
  await expect(chart.locator('svg').first()).toBeVisible();
  await expect(chart.locator('figcaption')).toContainText('of 14 routes lit');
  const values = page.getByRole('table', { name: title });
  await expect(values).toContainText('Quel – Ostrin');
  await expect(page.locator('[data-part="drawn-note"]')).toContainText('This browser runs no scripts');
  await page.context().close();
});

test('every board of the demo that does not tell the time arrives drawn, whole', async ({ request }) => {
  test.slow();
  for (const board of demoBoards.filter((each) => each !== 'what-sails-now')) {
    const text = async () => (await request.get(`/show/${board}`)).text();
    await expect.poll(async () => (await text()).includes('id="drawn"'), { timeout: 30_000 }).toBe(true);
    const { charts } = (await (await request.get(`/api/boards/${board}/shown`)).json()).document;
    const drawn = await text();
    for (const { id } of charts) expect(drawn, board).toContain(`data-chart="${id}"`);
    expect(drawn, board).not.toContain('role="alert"');
  }
  expect(await (await request.get('/show/what-sails-now')).text()).not.toContain('id="drawn"');
});
