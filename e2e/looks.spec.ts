import type { Page } from '@playwright/test';
import { demoBoards, expect, seriousFindings, test } from './fixtures';

/** Pairs of texts inside one drawing whose boxes overlap, and texts that reach out of their drawing. */
const clashes = (page: Page) =>
  page.evaluate(() => {
    const found: string[] = [];
    for (const svg of document.querySelectorAll('[data-part~="plot"] svg')) {
      const frame = svg.getBoundingClientRect();
      const texts = [...svg.querySelectorAll('text')].filter(
        (text) => text.textContent && text.checkVisibility() && !text.matches('[data-part~="guide"]'),
      );
      const boxes = texts.map((text) => text.getBoundingClientRect());
      boxes.forEach((a, i) => {
        if (a.left < frame.left - 1 || a.right > frame.right + 1) found.push(`cut: ${texts[i]!.textContent}`);
        for (let j = i + 1; j < boxes.length; j++) {
          const b = boxes[j]!;
          const apart =
            a.right <= b.left + 0.5 ||
            b.right <= a.left + 0.5 ||
            a.bottom <= b.top + 3 ||
            b.bottom <= a.top + 3;
          if (!apart) found.push(`${texts[i]!.textContent} on ${texts[j]!.textContent}`);
        }
      });
    }
    return found;
  });

const boards = ['which-routes-carry-the-sound', 'when-is-the-sound-busiest'];
const sizes = [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
  { width: 640, height: 400 },
];

for (const board of boards)
  for (const size of sizes)
    test(`no text covers another: ${board} at ${size.width}x${size.height}`, async ({ page }) => {
      await page.setViewportSize(size);
      await page.goto(`/show/${board}`);
      await page.waitForFunction(
        () => document.querySelectorAll('figure [data-part~="mark"][data-state]').length > 10,
      );
      await page.waitForLoadState('networkidle');
      expect(await clashes(page)).toEqual([]);
      const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      expect(wide).toBeLessThanOrEqual(0);
    });

test('the ground is turned by a button and stays turned', async ({ page }) => {
  await page.goto('/');
  const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  const light = await ground();
  await page.getByRole('button', { name: 'Dark theme' }).click();
  const dark = await ground();
  expect(dark).not.toBe(light);
  await page.reload();
  expect(await ground()).toBe(dark);
  await page.getByRole('button', { name: 'Light theme' }).click();
  expect(await ground()).toBe(light);
});

test('an address that leads nowhere says so, with a way back', async ({ page }) => {
  await page.goto('/nowhere/at/all');
  await page.getByRole('link', { name: 'All boards and datasets' }).click();
  await expect(page.getByRole('heading', { name: 'Boards' })).toBeVisible();
});

test.describe('in colours that a person has forced on all pages', () => {
  for (const colorScheme of ['light', 'dark'] as const)
    test(`states are told apart by filling and edge, and levers can be seen: ${colorScheme}`, async ({
      page,
    }) => {
      await page.emulateMedia({ forcedColors: 'active', colorScheme });
      await page.goto('/show/which-routes-carry-the-sound');
      const bars = page.locator('[data-part~="chart"] [data-part~="bar"]');
      await expect(bars.first()).toBeVisible();
      const painted = (state: string) =>
        page
          .locator(`[data-state="${state}"] > [data-part~="bar"]`)
          .first()
          .evaluate((bar) => {
            const { fill, stroke } = getComputedStyle(bar);
            return { fill, stroke };
          });
      const page_ = await page.evaluate(() => getComputedStyle(document.body).backgroundColor);
      const [lit, muted, plain] = [await painted('lit'), await painted('muted'), await painted('plain')];
      expect(muted.fill).toBe(page_);
      expect(muted.stroke).not.toBe(page_);
      expect(new Set([lit.fill, muted.fill, plain.fill]).size).toBe(3);
      expect(lit.stroke).not.toBe(lit.fill);
      const edged = (part: string) =>
        page
          .locator(`[data-part~="${part}"]`)
          .first()
          .evaluate((each) => {
            const { borderTopColor, borderTopWidth } = getComputedStyle(each);
            return [borderTopWidth, borderTopColor === getComputedStyle(document.body).backgroundColor];
          });
      expect(await edged('slider-track')).toEqual(['1px', false]);
      expect(await seriousFindings(page)).toEqual([]);
    });
});

test('no two looks of a demo chart differ by colour alone', async ({ page }) => {
  for (const id of demoBoards) {
    await page.goto(`/boards/${id}`);
    await expect(page.getByRole('region', { name: /Sentences/ })).toContainText('Shows');
    const warnings = page.getByRole('button', { name: /warning/ });
    if (!(await warnings.count())) continue;
    await warnings.click();
    await expect(page.getByRole('dialog')).not.toContainText('colour alone');
  }
});
