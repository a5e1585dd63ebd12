import { readdirSync, readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './fixtures';

const demo = new URL('../demo/boards/', import.meta.url);
// That of today lives on a feed, which does not run here.
const boards = readdirSync(demo)
  .filter((file) => file !== 'today.json')
  .map((file) => (JSON.parse(readFileSync(new URL(file, demo), 'utf8')) as { title: string }).title);

/** Texts of charts that lie over one another, or beyond what is shown of their plot. */
const inTheWay = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll('figure[data-part~="chart"]')].flatMap((figure) => {
      const plot = figure.querySelector('[data-part~="plot"]')!;
      const shown = plot.getBoundingClientRect();
      const texts = [...plot.querySelectorAll('svg text')]
        .filter((text) => text.textContent?.trim() && text.checkVisibility({ visibilityProperty: true }))
        .map((text) => ({ says: text.textContent, box: text.getBoundingClientRect() }))
        .filter(({ box }) => box.width > 0);
      const scrolled = plot.scrollWidth > plot.clientWidth + 1;
      const cut = texts
        .filter(({ box }) => !scrolled && (box.left < shown.left - 1 || box.right > shown.right + 1))
        .map(({ says }) => `${says} is cut`);
      const over = texts.flatMap((a, i) =>
        texts.slice(i + 1).flatMap((b) => {
          const across = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
          // Boxes of lines of text are higher than their letters.
          const down = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
          return across > 1 && down > 4 ? [`${a.says} lies over ${b.says}`] : [];
        }),
      );
      const title = figure.querySelector('h2')?.textContent;
      return [...cut, ...over].map((found) => `${title}: ${found}`);
    }),
  );

const sizes = [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
  { width: 2560, height: 1440 },
];

for (const title of boards)
  test(`no text of a chart lies over another: ${title}`, async ({ page }) => {
    const id = title
      .toLowerCase()
      .match(/[a-z0-9]+/g)!
      .join('-');
    await page.goto(`/show/${id}`);
    for (const size of sizes) {
      await page.setViewportSize(size);
      await expect(page.getByRole('figure').first().locator('figcaption')).not.toBeEmpty();
      await expect(page.locator('[data-part~="plot"] svg text').first()).toBeAttached();
      // The drawing follows the new size a moment later.
      await expect.poll(() => inTheWay(page), `${size.width} x ${size.height}`).toEqual([]);
    }
  });
