import { plainChart } from '@sorvik/core/testing/documents';
import { expect, importCsv, ownBoard, seriousFindings, test } from './fixtures';

/** How much of the page lies beyond its right edge, in CSS pixels. */
const sideways = () => document.documentElement.scrollWidth - innerWidth;

const unbroken = 'Ferrykilometresperquayandhourwithoutonespaceorhyphenanywhereinthewholename';

for (const width of [320, 1280])
  test(`names of one long word stay on the home page at ${width} px`, async ({ page, request }) => {
    const dataset = await importCsv(request, unbroken, 'quay,boats\nOst,3\nVemm,5\n');
    const made = await request.post('/api/boards', {
      data: {
        document: {
          version: 1,
          title: unbroken,
          subtitle: unbroken,
          levers: [],
          charts: [
            plainChart(dataset, {
              id: 'c',
              form: 'bars',
              by: { field: 'quay' },
              measure: { aggregate: 'sum', field: 'boats' },
              order: { by: 'value', direction: 'descending' },
            }),
          ],
        },
      },
    });
    const { id } = await made.json();
    await page.setViewportSize({ width, height: 700 });
    await page.goto('/');
    await expect(page.locator(`[data-dataset="${dataset}"]`)).toBeVisible();
    await expect(page.locator(`[data-board="${id}"] svg`).first()).toBeVisible();
    expect(await page.evaluate(sideways)).toBe(0);
    await page.goto('about:blank');
    await request.delete(`/api/boards/${id}`);
    await request.delete(`/api/datasets/${dataset}`);
  });

/** Text that is cut without a way to read it, or lies over other text: in HTML, each with where. */
const cutText = () =>
  [...document.querySelectorAll<HTMLElement>('h1, h2, p, button, a, label, td, th, li, figcaption')]
    .filter(
      (each) =>
        each.checkVisibility() && !each.closest('.visually-hidden, .visually-hidden-focusable, caption'),
    )
    .filter((each) => {
      const { overflowX, textOverflow } = getComputedStyle(each);
      return (
        overflowX !== 'visible' && textOverflow !== 'ellipsis' && each.scrollWidth > each.clientWidth + 1
      );
    })
    .map((each) => `${each.tagName} ${each.className}: ${each.textContent?.slice(0, 60)}`);

const pages = [
  '/',
  '/boards/which-routes-carry-the-sound',
  '/boards/one-route-among-forty',
  '/show/which-routes-carry-the-sound',
  '/show/where-do-we-leave-the-corridor',
  '/show/the-sound-form-by-form',
  '/show/what-changed-after-the-new-pier',
  '/datasets/ollen-sound-ferries',
  '/datasets/ollen-sound-ferries/new-board',
];
// 1280x1024 enlarged four times is 320x256.
const windows = [
  [320, 256],
  [320, 568],
  [600, 960],
  [900, 700],
  [1280, 800],
  [1920, 1080],
  [3840, 2160],
] as const;

for (const path of pages)
  test(`nothing is cut and nothing scrolls sideways from 320 to 3840 px: ${path}`, async ({ page }) => {
    await page.goto(path);
    await expect(page.getByRole('heading').first()).toBeVisible();
    await page.waitForLoadState('networkidle');
    for (const [width, height] of windows) {
      await page.setViewportSize({ width, height });
      await page.evaluate(
        () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
      );
      expect(await page.evaluate(sideways), `${width}x${height}`).toBeLessThanOrEqual(0);
      expect(await page.evaluate(cutText), `${width}x${height}`).toEqual([]);
      // What stays while the rest scrolls leaves two thirds of the window.
      const stays = await page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('*')]
          .filter((each) => ['fixed', 'sticky'].includes(getComputedStyle(each).position))
          .filter((each) => each.checkVisibility() && each.offsetWidth > innerWidth * 0.6)
          .reduce((sum, each) => sum + each.offsetHeight, 0),
      );
      expect(stays, `${width}x${height}`).toBeLessThanOrEqual(height / 3);
    }
  });

test('every editor of a board stays in a small window, and in one that is enlarged four times; axe finds nothing', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  for (const [width, height, colorScheme] of [
    [320, 568, 'light'],
    [320, 256, 'light'],
    [1280, 800, 'dark'],
  ] as const) {
    await page.setViewportSize({ width, height });
    await page.emulateMedia({ colorScheme });
    await page.goto(`/boards/${id}`);
    const words = page.getByRole('region', { name: /Sentences/ }).locator('[data-slot]');
    await expect(words.first()).toBeVisible();
    const openers = [
      ...(await words.all()),
      page.getByRole('button', { name: 'More', exact: true }),
      page.getByRole('button', { name: /^(Publish|Published|Publish changes)$/ }),
      page.getByRole('button', { name: /^Copy to other charts/ }).first(),
      page.getByRole('button', { name: 'Copy to board…' }),
    ];
    for (const opener of openers) {
      await opener.click();
      const editor = page.getByRole('dialog');
      await expect(editor).toBeVisible();
      const name = await editor.getAttribute('aria-label');
      await expect
        .poll(
          async () => {
            const box = (await editor.boundingBox())!;
            return box.x >= 0 && box.y >= 0 && box.x + box.width <= width && box.y + box.height <= height;
          },
          { message: `${name} at ${width}x${height}` },
        )
        .toBe(true);
      const wide = await editor.evaluate((each) => each.scrollWidth - each.clientWidth);
      expect.soft(wide, `${name} at ${width}x${height}`).toBeLessThanOrEqual(0);
      if (height > 300) expect.soft(await seriousFindings(page, '[role="dialog"]'), `${name}`).toEqual([]);
      await page.keyboard.press('Escape');
      await expect(editor, `${name} at ${width}x${height}`).toHaveCount(0);
    }
  }
});

test('of many boards only those that are looked at ask for their data', async ({ page, request }) => {
  const ids = [];
  for (let i = 0; i < 14; i++) ids.push(await ownBoard(request));
  await page.setViewportSize({ width: 700, height: 600 });
  await page.goto('/');
  const cards = page.getByRole('article');
  await expect(cards.first().locator('svg').first()).toBeVisible();
  await expect(cards.last().locator('svg')).toHaveCount(0);
  await cards.last().scrollIntoViewIfNeeded();
  await expect(cards.last().locator('svg').first()).toBeVisible();
  for (const id of ids) await request.delete(`/api/boards/${id}`);
});
