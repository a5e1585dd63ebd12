import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';

/** Pairs of texts inside one drawing whose boxes overlap, and texts that reach out of their drawing. */
const clashes = (page: Page) =>
  page.evaluate(() => {
    const found: string[] = [];
    for (const svg of document.querySelectorAll('[data-part~="plot"] svg')) {
      const frame = svg.getBoundingClientRect();
      const texts = [...svg.querySelectorAll('text')].filter(
        (text) => text.textContent && !text.matches('[data-part~="guide"]'),
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
