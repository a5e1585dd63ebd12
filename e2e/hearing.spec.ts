import { expect, leverNamed, ownBoard, seriousFindings, test } from './fixtures';

test('what a move changed is said once, when it has come to rest; a clock says nothing', async ({ page }) => {
  await page.goto('/show/who-leads-who-trails');
  const said = page.locator('[data-part~="announced"]');
  await expect(page.locator('[data-state="lit"]').first()).toBeVisible();
  await expect(said).toBeEmpty();
  await page.evaluate(() => {
    const heard: string[] = [];
    Object.assign(globalThis, { heard });
    new MutationObserver(() =>
      heard.push(document.querySelector('[data-part~="announced"]')!.textContent!),
    ).observe(document.querySelector('[data-part~="announced"]')!, {
      childList: true,
      characterData: true,
      subtree: true,
    });
  });
  const slider = leverNamed(page, 'Count').getByRole('slider');
  await slider.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await expect(said).toContainText('7 of 14 routes lit');
  const heard = () => page.evaluate(() => (globalThis as unknown as { heard: string[] }).heard);
  expect(await heard()).toHaveLength(1);
  // No caption of a chart is a live region of its own.
  await expect(page.locator('figcaption[aria-live]')).toHaveCount(0);

  await page.clock.install({ time: new Date('2026-03-05T08:10:00Z') });
  await page.goto('/show/what-sails-now');
  await expect(page.locator('[data-state="lit"]').first()).toBeAttached();
  await page.clock.runFor(3 * 3_600_000);
  await expect(said).toBeEmpty();
});

test('skip links lead to levers, charts and sentences, and every page has one heading of its own', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  for (const [path, links] of [
    [`/boards/${id}`, ['To the levers', 'To the charts', 'To the sentences of the selected chart']],
    [`/show/${id}`, ['To the levers', 'To the charts']],
  ] as const) {
    await page.goto(path);
    await expect(page.locator('[data-part~="mark"]').first()).toBeVisible();
    await expect(page.getByRole('heading', { level: 1 })).toHaveCount(1);
    await expect(page.getByRole('main')).toHaveCount(1);
    for (const text of links) {
      await page.keyboard.press('Tab');
      await expect(page.getByRole('link', { name: text, exact: true })).toBeFocused();
    }
    await page.keyboard.press('Enter');
    await expect(page.locator(links.length === 3 ? '#sv-sentences' : '#sv-charts')).toBeFocused();
  }
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1 })).toHaveCount(1);
});

test('Tab passes charts without selecting them, and the words of a chart are a few presses from it', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const desk = page.getByRole('region', { name: /Sentences/ });
  await expect(desk).toContainText('Shows bars of total passengers by route');
  const way = page.getByRole('button', { name: 'To the sentences of Passengers by year' });
  await way.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Tab');
  await expect(desk).toContainText('Shows bars of total passengers by route');
  await way.focus();
  await page.keyboard.press('Enter');
  await expect(desk).toContainText('Shows columns of total passengers by year');
  await expect(page.locator('#sv-sentences')).toBeFocused();
  const onWord = () => page.evaluate(() => document.activeElement?.getAttribute('data-slot') === 'form');
  let presses = 0;
  while (!(await onWord()) && presses < 12) {
    await page.keyboard.press('Tab');
    presses++;
  }
  expect(presses).toBeLessThanOrEqual(10);
});

test('the values of every chart are a real table, with states, kept in step with the levers', async ({
  page,
}) => {
  await page.goto('/show/which-routes-carry-the-sound?routes=');
  const chart = page.getByRole('figure', { name: 'Passengers by route' });
  await expect(chart.locator('[data-key]')).toHaveCount(14);
  const turn = chart.getByRole('button', { name: /^List the values/ });
  await turn.focus();
  await page.keyboard.press('Enter');
  await expect(turn).toHaveAttribute('aria-pressed', 'true');
  const rows = chart.getByRole('table', { name: 'Passengers by route' }).getByRole('row');
  await expect(rows).toHaveCount(15);
  await expect(rows.nth(0)).toHaveText(/route.*passengers.*state/);
  await expect(rows.nth(1)).toContainText('plain');
  await leverNamed(page, 'Routes')
    .getByRole('option', { name: /Harl – Vemmen/ })
    .click();
  await expect(chart.getByRole('row', { name: /Harl – Vemmen/ })).toContainText('lit');
  await expect(chart.getByRole('row', { name: /Quel – Ostrin/ })).toContainText('muted');
  expect(await seriousFindings(page)).toEqual([]);
  await page.keyboard.press('Enter');
  await turn.focus();
  await page.keyboard.press('Enter');
  await expect(chart.getByRole('table')).toHaveCount(0);
});

test('a chart that is a table is one to be heard; a line can be entered before anybody is in it', async ({
  page,
}) => {
  await page.goto('/show/the-sound-form-by-form');
  const table = page.getByRole('figure', { name: 'A table of delays' });
  await expect(table.getByRole('table')).toBeAttached();
  const names = await table
    .locator('[data-key]')
    .evaluateAll((marks) => marks.map((each) => each.getAttribute('data-key')));
  await expect(table.getByRole('rowheader')).toHaveText(names as string[]);

  await page.goto('/show/one-route-among-forty');
  const lines = page.getByRole('listbox', { name: /each route and fare/ });
  await expect(lines.getByRole('option')).toHaveCount(1);
  await expect(lines.getByRole('option')).toHaveAttribute('aria-posinset', '1');
  expect(Number(await lines.getByRole('option').getAttribute('aria-setsize'))).toBeGreaterThan(1000);
});

test('a show is heard as headings, levers by their names, and charts with their captions', async ({
  page,
}) => {
  await page.goto('/show/which-routes-carry-the-sound');
  await expect(page.getByRole('figure').nth(3).locator('[data-state]').first()).toBeAttached();
  await expect(page.getByRole('main')).toMatchAriaSnapshot(`
    - main:
      - navigation "On this page":
        - link "To the levers"
        - link "To the charts"
      - heading "Which routes carry the sound?" [level=1]
      - complementary "Levers":
        - group "Routes":
          - combobox "Find in Routes"
          - listbox "Values of Routes":
            - option /Harl – Skarrow/ [selected]
        - group "Years"
        - group "Counted routes":
          - slider "Counted routes"
        - group "Counted from":
          - radiogroup "Counted from":
            - radio "highest" [checked]
            - radio "lowest"
      - figure "Passengers by route":
        - heading "Passengers by route" [level=2]
        - listbox "Passengers by route, marks to pick":
          - option /^Quel – Ostrin/ [selected]
      - figure "Passengers by year"
      - figure "What share of all passengers is that?":
        - heading [level=2]
      - figure "Passengers by month, the latest lit"
  `);
  // Each chart says in words what it shows.
  for (const caption of await page.locator('figcaption').allTextContents()) expect(caption).toMatch(/\.$/);
});
