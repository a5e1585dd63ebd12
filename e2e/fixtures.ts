import AxeBuilder from '@axe-core/playwright';
import {
  type APIRequestContext,
  type BrowserContext,
  test as base,
  expect,
  type Locator,
  type Page,
} from '@playwright/test';

/** What the browser says of a machine that has much to do: that what is preloaded is used is asked by a test of its own. */
const slowness = [/was preloaded using link preload but not used within a few seconds/];
/** Home draws the boards of all tests, also of the one that has just stopped the database of its board. */
const boardsOfOthers = [/status of 502 \(Bad Gateway\) \(\S+\/cube\?/];

/** Has pages begin without what the server has drawn of them: a test touches what answers to it, from the first moment on. */
export async function undrawn(context: BrowserContext): Promise<void> {
  await context.addInitScript(() =>
    new MutationObserver(() => document.getElementById('drawn')?.remove()).observe(document, {
      childList: true,
      subtree: true,
    }),
  );
}

/** Every test fails on an error or warning in the console that it did not expect. */
export const test = base.extend<{
  quiet: undefined;
  expectNoise: { allow: RegExp[] };
  /** Pages come with what the server has drawn of them. */
  arrivesDrawn: boolean;
}>({
  arrivesDrawn: [false, { option: true }],
  context: async ({ context, arrivesDrawn }, use) => {
    if (!arrivesDrawn) await undrawn(context);
    await use(context);
  },
  baseURL: async ({ baseURL: _unset }, use) => use(process.env.SORVIK_URL),
  expectNoise: async ({ page: _page }, use) => use({ allow: [] }),
  quiet: [
    async ({ page, expectNoise }, use) => {
      const noise: string[] = [];
      page.on('console', (message) => {
        // A failed request says no address in its text: only in the place it names.
        if (['error', 'warning'].includes(message.type()))
          noise.push(`${message.text()} (${message.location().url})`);
      });
      page.on('pageerror', (error) => noise.push(String(error.stack)));
      await use(undefined);
      const allowed = [...expectNoise.allow, ...slowness, ...boardsOfOthers];
      expect(noise.filter((text) => !allowed.some((each) => each.test(text)))).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/** The boards of the demo. */
export const demoBoards = [
  'when-is-the-sound-busiest',
  'which-routes-carry-the-sound',
  'where-do-we-leave-the-corridor',
  'if-fares-rose',
  'one-route-among-forty',
  'the-sound-form-by-form',
  'who-leads-who-trails',
  'what-sails-now',
  'what-changed-after-the-new-pier',
];

/** A chart by its title; a lever by its name. */
export const chartNamed = (page: Page, name: string): Locator =>
  page.getByRole('figure', { name, exact: true });
export const leverNamed = (page: Page, name: string): Locator =>
  page.getByRole('group', { name, exact: true });
/** A lever where there is one column: its name in the sheet, which opens it. */
export const leverTab = (page: Page, name: string): Locator =>
  page.locator(`[aria-expanded]:has([data-part~="lever-name"]:text-is(${JSON.stringify(name)}))`);
/** A lever that can be moved: where there is one column it is opened first. */
export async function leverAtHand(page: Page, name: string): Promise<Locator> {
  const lever = leverNamed(page, name);
  await expect(lever.or(leverTab(page, name)).first()).toBeVisible();
  if (!(await lever.count())) await leverTab(page, name).click();
  return lever;
}
export const mark = (chart: Locator, key: string): Locator =>
  chart.locator(`[data-key=${JSON.stringify(key)}]`);
export const word = (page: Page, name: string | RegExp): Locator =>
  page.getByRole('region', { name: /Sentences/ }).getByRole('button', { name });

/** The keys of a chart's marks in one state, in the order of the chart. */
export const keysIn = (chart: Locator, state: 'lit' | 'muted' | 'plain'): Promise<string[]> =>
  chart
    .locator(`[data-state="${state}"]`)
    .evaluateAll((marks) => marks.map((each) => each.getAttribute('data-key') ?? ''));

export const allKeys = (chart: Locator): Promise<string[]> =>
  chart
    .locator('[data-key]')
    .evaluateAll((marks) => marks.map((each) => each.getAttribute('data-key') ?? ''));

/** Waits until the bench has saved everything. */
export const saved = (page: Page): Promise<void> =>
  expect(page.locator('[data-part~="save-state"]')).toHaveText('Saved');

/** From where a dataset is to a board with one chart of it, of which nothing has been said. */
export async function plainBoard(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'New board from this' }).click();
  await page.getByRole('button', { name: /^A plain chart/ }).click();
}

/** A copy of a demo board that a test may change as it likes. */
export async function ownBoard(
  request: APIRequestContext,
  source = 'which-routes-carry-the-sound',
): Promise<string> {
  const made = await request.post(`/api/boards/${source}/duplicate`);
  expect(made.status()).toBe(201);
  return (await made.json()).id;
}

/** Sends a CSV text through the import and waits for its dataset's id. */
export async function importCsv(request: APIRequestContext, name: string, text: string): Promise<string> {
  const sent = await request.post(`/api/imports?name=${name}.csv`, {
    data: Buffer.from(text),
    headers: { 'content-type': 'text/csv' },
  });
  const { id } = await sent.json();
  const state = async () =>
    (await (await request.get(`/api/imports/${id}`)).json()) as { state: string; dataset?: string };
  await expect.poll(async () => (await state()).state).toBe('done');
  return (await state()).dataset!;
}

/**
 * What axe finds that is more than minor, each with where, on a page or in a part of it. There are no frames, so it
 * looks from inside the page: much faster.
 */
export async function seriousFindings(page: Page, part?: string): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  const { violations } = await (part ? axe.include(part) : axe).analyze();
  return violations
    .filter(({ impact }) => impact !== 'minor')
    .map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
}
