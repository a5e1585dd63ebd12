import { resolve } from 'node:path';
import type { FrameLocator, Page } from '@playwright/test';
import { startPages } from '../demo/pages';
import { expect, leverNamed, mark, seriousFindings, test } from './fixtures';

const pages = () => process.env.SORVIK_PAGES!;

/** The board that a page has in a frame, seen as a page of its own. */
const inFrame = (page: Page): FrameLocator => page.frameLocator('#board');
const framed = (page: Page) => inFrame(page) as unknown as Page;
const leadersOf = (page: Page) => inFrame(page).getByRole('figure', { name: /^Passengers by route/ });
/** Has the page around the frame keep what it hears. */
const keepHeard = (page: Page) =>
  page.addInitScript(() => {
    const heard: unknown[] = [];
    Object.assign(window, { heard });
    addEventListener('message', ({ data }) => heard.push(data));
  });
/** Opens the page with a board in a frame. Gives a chart in it, once that is there. */
async function opened(page: Page) {
  await keepHeard(page);
  await page.goto(`${pages()}/board.html`);
  const chart = leadersOf(page);
  await expect(mark(chart, 'Ostrin – Tarsk')).toHaveAttribute('data-state', 'lit');
  return chart;
}
const heardBy = (page: Page): Promise<Record<string, unknown>[]> =>
  page.evaluate(() => (window as unknown as { heard: Record<string, unknown>[] }).heard);
const say = (page: Page, message: object) =>
  page.evaluate((said) => {
    const { contentWindow, src } = document.querySelector<HTMLIFrameElement>('#board')!;
    contentWindow!.postMessage(said, new URL(src).origin);
  }, message);

test('a page has a whole board in a frame as high as it is, moves its levers, and hears of what is lit', async ({
  page,
}) => {
  await opened(page);
  await expect(page.locator('#said')).toHaveText('Quel – Ostrin, Harl – Vemmen, Ostrin – Tarsk');
  // Nothing of the program around the board, and nothing that has to be scrolled to inside.
  await expect(inFrame(page).getByRole('button', { name: 'Copy link' })).toHaveCount(0);
  const inside = inFrame(page).locator('html');
  await expect.poll(() => inside.evaluate((html) => html.scrollHeight - html.clientHeight)).toBe(0);
  expect(await seriousFindings(page)).toEqual([]);

  const slider = leverNamed(framed(page), 'Count').getByRole('slider');
  await slider.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('#said')).toContainText('Quel – Ilvoe');
  const moved = (await heardBy(page)).filter(({ type }) => type === 'move');
  expect(moved.at(-1)).toMatchObject({ sorvik: 1, positions: { count: 5, side: 'highest' }, passing: false });
  // A move inside is no step of the page around it.
  expect(await page.evaluate(() => history.length)).toBe(2);

  await page.getByRole('button', { name: 'asks for the first three' }).click();
  await expect(page.locator('#said')).toHaveText('Quel – Ostrin, Harl – Vemmen, Ostrin – Tarsk');
  // What the page has moved itself it is not told of.
  expect((await heardBy(page)).filter(({ type }) => type === 'move')).toHaveLength(moved.length);
  expect((await heardBy(page)).find(({ type }) => type === 'ready')).toMatchObject({
    title: 'Who leads, who trails?',
    levers: expect.arrayContaining([{ id: 'count', kind: 'number', name: 'Count' }]),
    positions: { count: 3 },
  });
});

test('a frame follows its page in ground, language and width, and takes no nonsense from it', async ({
  page,
}) => {
  const chart = await opened(page);
  const root = inFrame(page).locator('html');
  await expect(root).toHaveAttribute('data-bs-theme', 'light');
  await say(page, { sorvik: 1, type: 'theme', theme: 'dark' });
  await expect(root).toHaveAttribute('data-bs-theme', 'dark');
  for (const nonsense of [
    'hello',
    { sorvik: 1, type: 'move', positions: { count: 'many', nothing: 3, side: ['lowest', 'highest'] } },
    { sorvik: 1, type: 'move', positions: { count: { of: 3 } } },
    { type: 'move', positions: { count: 1 } },
  ])
    await say(page, nonsense as object);
  await say(page, { sorvik: 1, type: 'move', positions: { side: 'lowest' } });
  await expect(chart).toContainText('lit: the 3 lowest');
  const heights = async () =>
    (await heardBy(page)).filter(({ type }) => type === 'height').map(({ height }) => Number(height));
  const [before] = (await heights()).slice(-1);
  // One column: the levers stand above the charts, as a sheet at the foot would be out of sight.
  await page.setViewportSize({ width: 420, height: 800 });
  await expect(leverNamed(framed(page), 'Count').getByRole('slider')).toBeVisible();
  await expect.poll(async () => (await heights()).at(-1)!).toBeGreaterThan(before!);
  await page.evaluate(() => {
    const frame = document.querySelector<HTMLIFrameElement>('#board')!;
    frame.src = `${frame.src}&lang=de&count=2`;
  });
  await expect(chart).toContainText('2 von 14');
});

test('no other page has it in a frame', async ({ page, expectNoise }) => {
  expectNoise.allow.push(/frame-ancestors|ERR_BLOCKED_BY_RESPONSE/);
  const folder = resolve(import.meta.dirname, '../demo/pages');
  const elsewhere = await startPages(folder, process.env.SORVIK_URL!, 0);
  try {
    await page.goto(`${elsewhere.origin}/board.html`);
    await expect(page.frames()).toHaveLength(2);
    await page.waitForLoadState('networkidle');
    await expect(inFrame(page).getByRole('heading', { name: 'Who leads, who trails?' })).toHaveCount(0);
    await expect(page.locator('#said')).toHaveText('');
  } finally {
    await elsewhere.close();
  }
});
