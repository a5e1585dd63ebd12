import type { Locator, Page } from '@playwright/test';
import { chartNamed, expect, keysIn, leverAtHand, mark, seriousFindings, test } from './fixtures';

/** The question of each board, answered by the pointer and by the keyboard. */
interface Path {
  slug: string;
  chart: string;
  pointer(page: Page, chart: Locator): Promise<void>;
  keyboard(page: Page, chart: Locator): Promise<void>;
}

const slider = async (page: Page, lever: string, name: RegExp = /./) =>
  (await leverAtHand(page, lever)).getByRole('slider', { name });
const press = async (on: Locator, key: string) => {
  await on.focus();
  await on.press(key);
};
const litCount = (chart: Locator) => async () => (await keysIn(chart, 'lit')).length;

const paths: Path[] = [
  {
    slug: 'which-routes-carry-the-sound',
    chart: 'by-route',
    async pointer(page, chart) {
      await mark(chart, 'Harl – Vemmen').locator('[data-part~="bar"]').click();
      await expect.poll(() => keysIn(chart, 'lit')).toEqual(['Harl – Vemmen']);
      const share = chartNamed(page, 'What share of all passengers is that?');
      await (await leverAtHand(page, 'Counted from')).getByText('lowest').click();
      await expect.poll(() => keysIn(share, 'lit')).toContain('Fennow – Aldsey');
    },
    async keyboard(page, chart) {
      await chart.getByRole('listbox').focus();
      await page.keyboard.press('Home');
      await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Space');
      await expect.poll(() => keysIn(chart, 'lit')).toContain('Harl – Vemmen');
      const share = chartNamed(page, 'What share of all passengers is that?');
      const before = await litCount(share)();
      await press(await slider(page, 'Counted routes'), 'ArrowRight');
      await expect.poll(litCount(share)).toBe(before + 1);
    },
  },
  {
    slug: 'where-do-we-leave-the-corridor',
    chart: 'load',
    async pointer(page, chart) {
      const before = await litCount(chart)();
      const high = await slider(page, 'Corridor of load', /upper/);
      const box = (await high.boundingBox())!;
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
      await page.mouse.down();
      await page.mouse.move(box.x + 60, box.y + box.height / 2, { steps: 4 });
      await page.mouse.up();
      await expect.poll(litCount(chart)).toBeLessThan(before);
    },
    async keyboard(page, chart) {
      const before = await litCount(chart)();
      const typed = (await leverAtHand(page, 'Corridor of load')).getByRole('textbox').last();
      await typed.fill('90');
      await typed.press('Enter');
      await expect.poll(litCount(chart)).toBeLessThan(before);
    },
  },
  {
    slug: 'what-changed-after-the-new-pier',
    chart: 'by-month',
    async pointer(page, chart) {
      await mark(chart, '2021-05-01').evaluate((each) => each.scrollIntoView({ block: 'center' }));
      const box = (await mark(chart, '2021-03-01').boundingBox())!;
      const end = (await mark(chart, '2021-08-01').boundingBox())!;
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
      await page.mouse.down();
      await page.mouse.move(end.x + end.width / 2, box.y + box.height / 2, { steps: 6 });
      await page.mouse.up();
      await expect.poll(() => keysIn(chart, 'lit')).toContain('2021-05-01');
      await expect(page.getByRole('figure').last().locator('figcaption')).toContainText('Only rows');
    },
    async keyboard(page, chart) {
      const [from] = await (await leverAtHand(page, 'Stretch')).getByRole('textbox').all();
      await from!.fill('2023-01-01');
      await from!.press('Enter');
      await expect.poll(litCount(chart)).toBeGreaterThan(0);
    },
  },
  {
    slug: 'one-route-among-forty',
    chart: 'fares',
    async pointer(page, chart) {
      await (await leverAtHand(page, 'Fare')).getByText('resident').click();
      await expect(chart.locator('figcaption')).toContainText('resident');
    },
    async keyboard(page, chart) {
      await press((await leverAtHand(page, 'Fare')).getByRole('radio', { checked: true }), 'ArrowLeft');
      await expect(chart.locator('figcaption')).toContainText('resident');
    },
  },
  {
    slug: 'if-fares-rose',
    chart: 'change',
    async pointer(_page, chart) {
      await mark(chart, 'Harl – Vemmen').click();
      await expect(chart.locator('figcaption')).toContainText('Harl – Vemmen');
    },
    async keyboard(page, chart) {
      const said = chart.locator('[data-part~="chart-subtitle"]');
      const before = await said.textContent();
      await press(await slider(page, 'Dearer by'), 'End');
      await expect(said).not.toHaveText(before!);
    },
  },
  {
    slug: 'what-sails-now',
    chart: 'by-weekday',
    async pointer(_page, chart) {
      await expect.poll(litCount(chart)).toBe(1);
      await mark(chart, '3').hover();
      await expect.poll(litCount(chart)).toBe(1);
    },
    async keyboard(page, chart) {
      const hours = page.getByRole('figure').first();
      const before = await hours.locator('figcaption').textContent();
      await press(page.getByRole('button', { name: /^Route: all/ }).first(), 'Enter');
      await expect(page.getByRole('combobox', { name: 'Find in Route' })).toBeFocused();
      await page.keyboard.type('Harl – Vem');
      await page.keyboard.press('Enter');
      await expect(hours.locator('figcaption')).not.toHaveText(before!);
      await expect.poll(litCount(chart)).toBe(1);
    },
  },
];

// Each size on one ground, and each way of working on one of them: together all are gone.
const views = [
  { width: 1280, height: 800, colorScheme: 'light', by: 'pointer' },
  { width: 390, height: 844, colorScheme: 'dark', by: 'keyboard' },
] as const;
for (const { slug, chart, ...ways } of paths)
  for (const { width, height, colorScheme, by } of views)
    test.describe(`${slug}, ${width}x${height}, ${colorScheme}`, () => {
      test.use({ viewport: { width, height }, colorScheme });
      test(`its question is answered by the ${by}, and axe finds nothing serious`, async ({ page }) => {
        await page.goto(`/show/${slug}`);
        const found = page.locator(`[data-chart="${chart}"]`);
        await expect(found.locator('[data-state]').first()).toBeAttached();
        await ways[by](page, found);
        expect(await seriousFindings(page)).toEqual([]);
        const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
        expect(wide).toBeLessThanOrEqual(0);
      });
    });
