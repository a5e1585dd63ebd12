import { test as base, type CDPSession, expect, type Locator, type Page } from '@playwright/test';
import { demoBoards, keysIn, leverTab, mark, test } from './fixtures';

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

const boxOf = async (part: Locator) => (await part.boundingBox())!;
/** The sheet of levers at the foot of a show. */
const sheetOf = (page: Page) => page.getByRole('region', { name: 'Levers' });

/** How much of a chart's plot is seen above the sheet, px. */
async function seenOf(plot: Locator, sheet: Locator): Promise<number> {
  const [{ y, height }, floor] = [await boxOf(plot), (await boxOf(sheet)).y];
  return Math.min(y + height, floor) - Math.max(y, 0);
}

/** A finger, by the browser's own input: what Playwright's touchscreen cannot do, it rests and moves. */
const finger = (session: CDPSession) => ({
  down: (x: number, y: number) =>
    session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] }),
  move: (x: number, y: number) =>
    session.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: [{ x, y }] }),
  up: () => session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] }),
});

for (const slug of demoBoards)
  base.describe(slug, () => {
    test('a lever and a chart that it moves are in sight together; nothing is cut or too small to touch', async ({
      page,
      request,
    }) => {
      await page.goto(`/show/${slug}`);
      const charts = page.locator('[data-part~="chart"]');
      await expect(charts.first().locator('[data-state]').first()).toBeAttached();
      await expect(charts.first().getByRole('button', { name: /^More for/ })).toBeVisible();
      const first = await boxOf(charts.first().locator('[data-part~="plot"]'));
      expect(first.y).toBeLessThan(844 / 2);

      const { document: board } = await (await request.get(`/api/boards/${slug}`)).json();
      const text = (chart: object) => JSON.stringify(chart);
      for (const lever of board.levers) {
        if (lever.hidden || lever.place === 'title') continue;
        await leverTab(page, lever.name).click();
        const control = page.getByRole('group', { name: lever.name, exact: true });
        await expect(control).toBeInViewport({ ratio: 0.4 });
        const reached = board.charts.filter((chart: object) => text(chart).includes(`"${lever.id}"`));
        const seen = async () => {
          const rooms = [];
          for (const { id } of reached)
            rooms.push(await seenOf(page.locator(`[data-chart="${id}"] [data-part~="plot"]`), sheetOf(page)));
          return Math.max(...rooms, reached.length ? 0 : 999);
        };
        await expect.poll(seen, { message: lever.name }).toBeGreaterThanOrEqual(150);
      }

      // What is pressed has room for a finger, and lies over no title.
      const small = await page.evaluate(() =>
        [
          ...document.querySelectorAll<HTMLElement>(
            'button, a, input, select, [role=slider], [role=option], summary',
          ),
        ]
          .filter(
            (each) =>
              each.checkVisibility() &&
              // A line is as thin as it is; where it is taken hold of is not.
              !each.matches('[data-part~="line-handle"]') &&
              !each.closest('svg, .visually-hidden, .visually-hidden-focusable'),
          )
          .map((each) => ({ each, box: each.getBoundingClientRect() }))
          .filter(
            ({ each, box }) =>
              box.width > 1 &&
              (box.width < 24 || box.height < 24) &&
              !each.matches('.visually-hidden-focusable'),
          )
          .map(
            ({ each, box }) =>
              `${each.getAttribute('aria-label') ?? each.textContent} ${box.width.toFixed()}x${box.height.toFixed()}`,
          ),
      );
      expect(small).toEqual([]);
      const over = await charts.evaluateAll(
        (figures) =>
          figures.filter((figure) => {
            const title = figure.querySelector('h2')!;
            const range = document.createRange();
            range.selectNodeContents(title);
            const menu = figure.querySelector('[data-part~="chart-menu"] button')!.getBoundingClientRect();
            return [...range.getClientRects()].some(
              (line) =>
                line.right > menu.left &&
                line.left < menu.right &&
                line.bottom > menu.top &&
                line.top < menu.bottom,
            );
          }).length,
      );
      expect(over).toBe(0);
      expect(
        await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
      ).toBeLessThanOrEqual(0);
    });
  });

test('a lever whose chart is in sight leaves the page where it is, and so does moving it', async ({
  page,
}) => {
  await page.goto('/show/which-routes-carry-the-sound');
  const chart = page.locator('[data-part~="chart"]').first();
  await expect(chart.locator('[data-state="lit"]').first()).toBeVisible();
  await leverTab(page, 'Routes').click();
  const list = page.getByRole('listbox', { name: 'Values of Routes' });
  await list.getByRole('option', { name: /Ilvoe – Fennow/ }).click();
  await expect.poll(() => keysIn(chart, 'lit')).toContain('Ilvoe – Fennow');
  expect(await page.evaluate(() => scrollY)).toBe(0);
  // What lies under the sheet does not shine through.
  const ground = await sheetOf(page).evaluate(
    (sheet) => getComputedStyle(sheet.parentElement!).backgroundColor,
  );
  expect(ground).not.toMatch(/, 0\)$|transparent/);
});

test('a legend never moves its plot; lines that do not fit are scrolled to, also by keys', async ({
  page,
}) => {
  const placesOf = () =>
    page.locator('[data-part~="chart"]').evaluateAll((charts) =>
      charts.map((chart) => {
        const plot = chart.querySelector('[data-part~="plot"]')!;
        return plot.getBoundingClientRect().top - chart.getBoundingClientRect().top;
      }),
    );
  for (const [slug, lever] of [
    ['where-do-we-leave-the-corridor', 'Corridor'],
    ['what-changed-after-the-new-pier', 'Stretch'],
    ['if-fares-rose', 'Largest'],
  ]) {
    await page.goto(`/show/${slug}`);
    await expect(page.locator('[data-state="lit"]').first()).toBeVisible();
    // Each of them is there, with what is said below it.
    for (const said of await page.locator('[data-part~="chart"] figcaption').all())
      await expect(said).not.toBeEmpty();
    const rest = await placesOf();
    await leverTab(page, lever!).click();
    const handle = sheetOf(page).getByRole('slider').first();
    for (const key of ['Home', 'ArrowRight', 'PageUp', 'End']) {
      const told = await handle.getAttribute('aria-valuetext');
      await handle.press(key);
      await expect(handle).not.toHaveAttribute('aria-valuetext', told!);
      await page.evaluate(() => new Promise((done) => setTimeout(done, 200)));
      expect(await placesOf(), `${lever} ${key}`).toEqual(rest);
    }
  }
  await page.goto('/show/what-changed-after-the-new-pier');
  const looks = page.locator('[data-part~="chart"]').first().locator('[data-rows="looks"]');
  await expect(looks).toHaveAttribute('tabindex', '0');
  await looks.focus();
  await looks.press('End');
  await expect.poll(() => looks.evaluate((list) => list.scrollTop)).toBeGreaterThan(0);
});

test('an enlarged chart keeps its levers', async ({ page }) => {
  await page.goto('/show/who-leads-who-trails');
  const chart = page.locator('[data-part~="chart"]').first();
  await chart.getByRole('button', { name: /^More for/ }).click();
  await page.getByRole('button', { name: 'Enlarge' }).click();
  await sheetOf(page)
    .getByRole('button', { name: /^Count/ })
    .click();
  const plot = chart.locator('[data-part~="plot"]');
  await expect.poll(() => seenOf(plot, sheetOf(page))).toBeGreaterThan(300);
  const lit = (await keysIn(chart, 'lit')).length;
  await page.getByRole('slider', { name: 'Count' }).press('ArrowRight');
  await expect.poll(async () => (await keysIn(chart, 'lit')).length).toBe(lit + 1);
});

test('a resting finger begins a drag across marks; one that moves at once scrolls, and picks nothing', async ({
  page,
}) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=');
  const chart = page.locator('[data-part~="chart"]').first();
  const bar = (key: string) => mark(chart, key).locator('[data-part~="bar"]');
  await expect(bar('Harl – Vemmen')).toBeVisible();
  const { down, move, up } = finger(await page.context().newCDPSession(page));
  const middle = async (key: string) => {
    const box = await boxOf(bar(key));
    return [box.x + box.width / 2, box.y + box.height / 2] as const;
  };

  const [x, y] = await middle('Harl – Vemmen');
  await down(x, y);
  for (let by = 20; by <= 160; by += 20) await move(x, y - by);
  await up();
  const scrolled = () => chart.locator('[data-part~="plot"]').evaluate((plot) => plot.scrollTop + scrollY);
  await expect.poll(scrolled).toBeGreaterThan(50);
  expect(await keysIn(chart, 'lit')).toEqual([]);

  await chart.locator('[data-part~="plot"]').evaluate((plot) => {
    plot.scrollTo(0, 0);
    scrollTo(0, 0);
  });
  await expect.poll(scrolled).toBe(0);
  const from = await middle('Harl – Vemmen');
  const to = await middle('Harl – Skarrow');
  await down(...from);
  await expect.poll(() => keysIn(chart, 'lit')).toEqual(['Harl – Vemmen']);
  await move(to[0], (from[1] + to[1]) / 2);
  await move(...to);
  await expect
    .poll(() => keysIn(chart, 'lit'))
    .toEqual(['Harl – Vemmen', 'Ostrin – Tarsk', 'Harl – Skarrow']);
  await up();
  expect(await scrolled()).toBe(0);
  expect(await keysIn(chart, 'lit')).toHaveLength(3);

  // A tap picks one.
  await bar('Quel – Ilvoe').tap();
  await expect.poll(() => keysIn(chart, 'lit')).toEqual(['Quel – Ilvoe']);
});
