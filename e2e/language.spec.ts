import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { APIRequestContext, Page } from '@playwright/test';
import { demoBoards, expect, keysIn, leverNamed, ownBoard, saved, seriousFindings, test } from './fixtures';

/** The messages of a language: those that are said as they stand, without slots. */
const plainMessages = (language: string): Record<string, string> =>
  Object.fromEntries(
    ['core', 'view', 'web'].flatMap((workspace) => {
      const file = join(import.meta.dirname, `../${workspace}/messages/${language}.json`);
      return Object.entries(JSON.parse(readFileSync(file, 'utf8')) as Record<string, string>)
        .filter(([, text]) => !text.includes('{'))
        .map(([id, text]) => [`${workspace} ${id}`, text]);
    }),
  );

/** A copy of a demo board that is read in a language. */
async function boardIn(request: APIRequestContext, locale: string, source?: string): Promise<string> {
  const id = await ownBoard(request, source);
  const { revision } = await (await request.get(`/api/boards/${id}`)).json();
  const changed = await request.patch(`/api/boards/${id}`, {
    data: [{ op: 'add', path: '/locale', value: locale }],
    headers: { 'content-type': 'application/json-patch+json', 'if-match': `"${revision}"` },
  });
  expect(changed.status()).toBe(200);
  return id;
}

/** All that is to be read or heard of a page, text by text: what stands in it, names of controls, tooltips. */
const textsOf = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const texts: string[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    while (walker.nextNode()) texts.push(walker.currentNode.textContent!.trim());
    for (const each of document.querySelectorAll('[aria-label], [title], [placeholder], [aria-valuetext]'))
      for (const name of ['aria-label', 'title', 'placeholder', 'aria-valuetext'])
        texts.push(each.getAttribute(name)?.trim() ?? '');
    return texts.filter(Boolean);
  });

test('nothing that the program says on a German show is English', async ({ page, request }) => {
  test.setTimeout(180_000);
  const [english, german] = [plainMessages('en'), plainMessages('de')];
  const untranslated = new Set(
    Object.entries(english)
      .filter(([id, text]) => text !== german[id])
      .map(([, text]) => text),
  );
  // What the author wrote stays: titles, names, notes.
  const ofProgram =
    /\b(lit|muted|plain|highest|lowest|at or above|the rest|Reset|Export|Enlarge|Values|rows of|not at|typed|in view)\b/;
  for (const slug of demoBoards) {
    const id = await boardIn(request, 'de', slug);
    const written = JSON.stringify((await (await request.get(`/api/boards/${id}`)).json()).document);
    await page.goto(`/show/${id}`);
    const charts = page.locator('[data-part~="chart"]');
    await expect(charts.first().locator('[data-state]').first()).toBeAttached();
    await expect(charts.last().locator('figcaption')).not.toHaveText('');
    await expect(page.locator('html')).toHaveAttribute('lang', 'de');
    // What is pointed at says why, and lists name themselves.
    await charts.first().locator('svg[tabindex="0"]').press('ArrowRight');
    const texts = (await textsOf(page)).filter(
      (text) => !written.includes(JSON.stringify(text).slice(1, -1)),
    );
    expect(texts.length, slug).toBeGreaterThan(20);
    expect(
      texts.filter((text) => untranslated.has(text)),
      slug,
    ).toEqual([]);
    const captions = await charts.locator('figcaption, [data-rows] li, [role=status]').allTextContents();
    expect(
      captions.filter((text) => ofProgram.test(text) && !written.includes(text)),
      slug,
    ).toEqual([]);
  }
});

test('a German board is written and read in German', async ({ page, request }) => {
  const id = await boardIn(request, 'de');
  await page.goto(`/show/${id}?routes=Harl+%E2%80%93+Vemmen`);
  const chart = page.locator('[data-part~="chart"]').first();
  await expect(chart.locator('figcaption')).toHaveText(
    /^Route: 1 von 14 betont: Harl – Vemmen \(\d{3}\.\d{3}\)\.$/,
  );
  await expect(chart.getByText(/^betont: Harl – Vemmen$/)).toBeVisible();
  await expect(chart.getByRole('heading')).toHaveText('Passengers nach Route');
  expect(await seriousFindings(page)).toEqual([]);

  // Why it is lit, and the values as a table.
  await chart.locator('[data-state="lit"]').first().hover();
  await expect(page.getByText(/^Betont: Harl – Vemmen ist in Routes\.$/)).toBeVisible();
  await chart.getByRole('button', { name: 'Werte von Passengers nach Route auflisten' }).click();
  await expect(chart.getByRole('columnheader', { name: 'Zustand' })).toBeVisible();
  await expect(chart.getByRole('row', { name: /Harl – Vemmen .* betont/ })).toBeVisible();

  await page.getByRole('button', { name: 'Alle zurücksetzen' }).click();
  await expect.poll(async () => (await keysIn(chart, 'lit')).length).toBe(2);
});

test('a language that cannot be fetched leaves a board that can be read', async ({
  page,
  request,
  expectNoise,
}) => {
  expectNoise.allow.push(/net::ERR_FAILED/);
  const id = await boardIn(request, 'de');
  await page.route(/\/assets\/de-[^/]*\.js$/, (route) => route.abort());
  await page.goto(`/show/${id}`);
  const chart = page.locator('[data-part~="chart"]').first();
  // English words, and figures as German has them.
  await expect(chart.locator('figcaption')).toHaveText(/2 of 14 Route lit: .*\(\d{3}\.\d{3}\)/);
  await expect(page.getByRole('button', { name: 'Reset all' })).toBeVisible();
});

test('figures and days that are typed are read as the board writes them', async ({ page, request }) => {
  const id = await boardIn(request, 'de', 'where-do-we-leave-the-corridor');
  await page.goto(`/show/${id}`);
  const corridor = leverNamed(page, 'Corridor');
  const low = corridor.getByRole('textbox', { name: /untere Grenze/ });
  await low.fill('70.000');
  await low.press('Enter');
  await expect(corridor.getByRole('slider', { name: /untere/ })).toHaveAttribute('aria-valuetext', '70.000');
  await low.fill('75000,5');
  await low.press('Enter');
  await expect(low).toHaveValue('75.000,5');
  await low.fill('viel');
  await low.press('Enter');
  await expect(corridor.getByText('Keine Zahl. Schreiben Sie 1200, 0,8 oder 15 %.')).toBeVisible();
});

test('an author sets the language; charts and levers follow at once, the bench stays English', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const caption = page.locator('[data-part~="chart"] figcaption').first();
  await expect(caption).toContainText('of 14 routes lit');
  await page.getByRole('button', { name: 'More', exact: true }).first().click();
  await page.getByLabel('Language for viewers').selectOption({ label: 'Deutsch' });
  await expect(caption).toContainText('Route: 2 von 14 betont');
  await page.keyboard.press('Escape');
  await expect(leverNamed(page, 'Routes').getByRole('button', { name: 'Umkehren' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Publish' })).toBeVisible();
  const sentences = page.getByRole('region', { name: /Sentences/ });
  await expect(sentences.getByText(/Lights/).first()).toBeVisible();
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(caption).toContainText('of 14 routes lit');
  // Another language is written its way, and spoken for in English.
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Search commands' }).fill('language fran');
  await page.getByRole('option', { name: /français/ }).click();
  await expect(caption).toHaveText(/2 of 14 Route lit: .*\(\d{3}[\u202f\u00a0 ]\d{3}\)/);
});

test('a board in a script from right to left keeps its drawings, and nothing scrolls sideways', async ({
  page,
  request,
}) => {
  const id = await boardIn(request, 'ar-EG');
  await page.goto(`/show/${id}`);
  const chart = page.locator('[data-part~="chart"]').first();
  await expect(chart.locator('figcaption')).toContainText('١٤');
  // The program has no Arabic words yet: its English ones are read from left to right.
  await expect(page.locator('html')).toHaveAttribute('dir', 'ltr');
  await page.evaluate(() => document.documentElement.setAttribute('dir', 'rtl'));
  // Figures stand behind their bars, whichever way is read: axes are no sentences.
  const end = await chart.evaluate((figure) => {
    const box = (part: string) => figure.querySelector(`svg [data-part~="${part}"]`)!.getBoundingClientRect();
    return box('value').left - box('bar').right;
  });
  expect(end).toBeGreaterThan(0);
  expect(end).toBeLessThan(12);
  for (const width of [1280, 390]) {
    await page.setViewportSize({ width, height: 800 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(
      0,
    );
  }
  expect(await seriousFindings(page)).toEqual([]);
});

test('a measure that cannot be computed any more says so to viewers in their language, without its mistake', async ({
  page,
  request,
  expectNoise,
}) => {
  // The server sends the data along with the page, and finds out the same.
  expectNoise.allow.push(/status of 422/);
  const id = await boardIn(request, 'de');
  const { revision } = await (await request.get(`/api/boards/${id}`)).json();
  const changed = await request.patch(`/api/boards/${id}`, {
    data: [
      {
        op: 'replace',
        path: '/charts/0/measure',
        value: { aggregate: 'formula', text: 'SUM(route)', name: 'Tonnage' },
      },
    ],
    headers: { 'content-type': 'application/json-patch+json', 'if-match': `"${revision}"` },
  });
  expect(changed.status()).toBe(200);
  await page.goto(`/show/${id}`);
  await expect(
    page.getByText('Die Formel "Tonnage" kann nicht berechnet werden. Die Daten haben'),
  ).toBeVisible();
  await page.goto(`/boards/${id}`);
  await expect(page.getByText('SUM takes a field of numbers, and Route is none.').first()).toBeVisible();
});

test('a show carries nothing that only authors read', async ({ page }) => {
  const scripts: Promise<string>[] = [];
  page.on('response', (response) => {
    if (/\.js$/.test(new URL(response.url()).pathname)) scripts.push(response.text());
  });
  await page.goto('/show/which-routes-carry-the-sound');
  await expect(page.locator('[data-part~="chart"] figcaption').first()).not.toHaveText('');
  await page.waitForLoadState('networkidle');
  const all = (await Promise.all(scripts)).join('\n');
  expect(all.length).toBeGreaterThan(500_000);
  // A doubt, a mistake in a formula, a button of the bench.
  for (const text of ['differ by colour alone', 'looks at other rows', 'Put back what was typed here'])
    expect(all, text).not.toContain(text);
});
