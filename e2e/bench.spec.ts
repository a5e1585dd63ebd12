import {
  allKeys,
  chartNamed,
  expect,
  keysIn,
  leverNamed,
  mark,
  ownBoard,
  saved,
  seriousFindings,
  test,
  word,
} from './fixtures';

test('every part of what a chart shows is a word: the chart follows, Esc takes back, undo takes back later', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const desk = page.getByRole('region', { name: /Sentences/ });
  await expect(desk).toContainText('Shows bars of total passengers by route, largest first.');
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-key]')).toHaveCount(14);
  const order = await allKeys(chart);

  await word(page, 'Order: largest first').click();
  await page.getByRole('radio', { name: 'smallest first' }).click();
  await expect.poll(async () => (await allKeys(chart)).at(-1)).toBe(order[0]);
  await page.keyboard.press('Escape');
  expect(await allKeys(chart)).toEqual(order);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();

  await word(page, 'Measure: total passengers').click();
  await page.getByRole('radio', { name: 'average' }).click();
  await page.getByRole('radio', { name: 'Delay' }).click();
  await page.keyboard.press('Enter');
  await expect(chart).toHaveAccessibleName('Average delay by route');
  await word(page, 'Form: bars').click();
  await page.getByRole('radio', { name: 'columns' }).click();
  await page.keyboard.press('Enter');
  await expect(chart.locator('[data-part~="tick"]').first()).toBeVisible();
  await word(page, 'Category: route').click();
  await page.getByRole('radio', { name: /^Date/ }).click();
  await page.getByRole('radio', { name: 'quarter' }).click();
  await page.keyboard.press('Enter');
  await expect(chart).toHaveAccessibleName('Average delay by quarter');
  await expect(chart.locator('[data-key]')).toHaveCount(24);
  await expect(desk).toContainText('earliest first');
  await expect(desk).toContainText('it can filter this chart, not light it');
  await saved(page);

  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(desk).toContainText('Shows bars of total passengers by route, largest first.');
  await page.keyboard.press('Control+Shift+z');
  await expect(chart).toHaveAccessibleName('Average delay by route');
  await saved(page);
  await page.reload();
  await expect(chart).toHaveAccessibleName('Average delay by route');
});

test('a new board from a dataset makes sense at once, and grows by sentences', async ({ page }) => {
  await page.goto('/');
  await page
    .locator('[data-dataset="ollen-sound-ferries"]')
    .getByRole('link', { name: 'New board from this' })
    .click();
  await page.getByRole('button', { name: /^A plain chart/ }).click();
  const chart = chartNamed(page, 'Passengers by route');
  await expect(chart.locator('[data-key]')).toHaveCount(14);
  expect(await keysIn(chart, 'plain')).toHaveLength(14);
  const say = page.getByRole('combobox', { name: /Add a sentence/ });
  await say.click();
  await say.fill('lights');
  await page.keyboard.press('Enter');
  await expect(leverNamed(page, 'Route')).toBeVisible();
  await mark(chart, 'Harl – Vemmen')
    .locator('rect')
    .first()
    .click({ position: { x: 5, y: 5 } });
  expect(await keysIn(chart, 'lit')).toEqual(['Harl – Vemmen']);
  await word(page, /^Look/).click();
  await page.getByRole('radio', { name: 'blue' }).click();
  await page.keyboard.press('Enter');
  await expect(mark(chart, 'Harl – Vemmen')).toHaveAttribute('data-look', 'tide outline');
  await say.fill('vessel');
  await page.keyboard.press('Enter');
  await leverNamed(page, 'Vessel')
    .getByRole('option', { name: /Saltwind/ })
    .click();
  await expect(chart.locator('figcaption')).toContainText('Only rows of Saltwind.');
  await say.fill('line at a value');
  await page.keyboard.press('Enter');
  await word(page, 'Value: 0').click();
  await page.getByRole('textbox', { name: 'Figure' }).fill('10,000');
  await page.keyboard.press('Enter');
  await expect(chart.locator('line[data-part~="guide"]')).toHaveCount(1);
  await expect(chart.locator('text[data-part~="guide"]')).toHaveText('10,000');
  await saved(page);

  const [show] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('link', { name: 'Show' }).click(),
  ]);
  await expect(chartNamed(show, 'Passengers by route').locator('figcaption')).toContainText(
    'Only rows of Saltwind.',
  );
  await expect(show.getByRole('region', { name: /Sentences/ })).toHaveCount(0);
});

test('levers are set up, started from here, and removed with what hangs on them', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by route');
  await leverNamed(page, 'Routes').getByRole('button', { name: 'all' }).click();
  await page.getByRole('button', { name: 'Edit Routes' }).click();
  const card = page.getByRole('region', { name: 'Lever Routes' });
  await expect(card).toContainText(
    'It is multiple choice, and lights 1 chart and filters 1 chart. It starts with 2 of 14.',
  );
  await card.getByRole('button', { name: 'Use current position as start' }).click();
  await expect(card).toContainText('It starts with 14 of 14.');
  await card.getByRole('textbox', { name: 'Name of the lever' }).fill('Crossings');
  await page.keyboard.press('Enter');
  await expect(leverNamed(page, 'Crossings')).toBeVisible();
  await expect(page.getByRole('region', { name: /Sentences/ })).toContainText('is in Crossings');
  await page.getByRole('button', { name: 'Remove lever' }).click();
  await expect(leverNamed(page, 'Crossings')).toHaveCount(0);
  expect(await keysIn(chart, 'plain')).toHaveLength(14);
  await page.getByRole('button', { name: 'Undo' }).click();
  expect(await keysIn(chart, 'lit')).toHaveLength(14);

  await page.getByRole('button', { name: '+ lever' }).click();
  await page.getByRole('dialog').getByRole('radio', { name: 'Vessel' }).click();
  await expect(leverNamed(page, 'Vessel').getByRole('option')).not.toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Lever Vessel' })).toContainText(
    'is not used by any chart yet.',
  );
});

test('two tabs on one board: the later one is told, sees both and loses nothing', async ({
  page,
  browser,
  request,
  expectNoise,
}) => {
  expectNoise.allow.push(/412/);
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
  // Another browser altogether, so that nothing but the server connects the two.
  const other = await (
    await browser.newContext({ baseURL: process.env.SORVIK_URL, viewport: { width: 1280, height: 800 } })
  ).newPage();
  await other.goto(`/boards/${id}`);
  const rename = async (where: typeof page, title: string) => {
    await where.getByRole('textbox', { name: 'Title of the board' }).fill(title);
    await where.keyboard.press('Enter');
  };
  await rename(other, 'Theirs');
  await saved(other);
  await rename(page, 'Mine');
  const told = page.getByRole('alert', { name: 'This board was changed elsewhere' });
  await expect(told).toContainText('Title: Mine');
  await expect(told).toContainText('Title: Theirs');
  await expect(told.locator('[data-part~="picture"] [data-key]').first()).toBeVisible();
  await told.getByRole('button', { name: 'Keep my changes' }).click();
  await saved(page);
  const now = await (await request.get(`/api/boards/${id}`)).json();
  expect(now.document.title).toBe('Mine');
  const versions = await (await request.get(`/api/boards/${id}/versions`)).json();
  expect(versions.map((version: { title: string }) => version.title).slice(0, 2)).toEqual(['Mine', 'Theirs']);

  await rename(other, 'Theirs again');
  const toldOther = other.getByRole('alert', { name: 'This board was changed elsewhere' });
  await toldOther.getByRole('button', { name: 'Keep both' }).click();
  await expect(other).toHaveURL(/my-changes$/);
  await expect(other.getByRole('textbox', { name: 'Title of the board' })).toHaveValue(
    'Theirs again (my changes)',
  );
  await other.context().close();
});

test('two authors who change different parts of one board keep both, without a question', async ({
  page,
  request,
  expectNoise,
}) => {
  expectNoise.allow.push(/412/);
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
  const { revision } = await (await request.get(`/api/boards/${id}`)).json();
  const theirs = await request.patch(`/api/boards/${id}`, {
    headers: { 'if-match': `"${revision}"`, 'content-type': 'application/json-patch+json' },
    data: JSON.stringify([{ op: 'add', path: '/subtitle', value: 'By somebody else' }]),
  });
  expect(theirs.status()).toBe(200);
  const title = page.getByRole('textbox', { name: 'Title of the board' });
  const before = await title.inputValue();
  await title.fill('Mine');
  await page.keyboard.press('Enter');
  await expect(page.getByText('their changes and yours are joined')).toBeVisible();
  await saved(page);
  const now = async () => (await (await request.get(`/api/boards/${id}`)).json()).document;
  expect(await now()).toMatchObject({ title: 'Mine', subtitle: 'By somebody else' });
  // A step back takes back what was done here, and not what came from there.
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(title).toHaveValue(before);
  await saved(page);
  expect(await now()).toMatchObject({ title: before, subtitle: 'By somebody else' });
});

test('a second tab of the same browser takes over what the first one saved', async ({
  page,
  context,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const second = await context.newPage();
  await second.goto(`/boards/${id}`);
  await expect(chartNamed(second, 'Passengers by route')).toBeVisible();
  await page.getByRole('textbox', { name: 'Title of the board' }).fill('Renamed next door');
  await page.keyboard.press('Enter');
  await expect(second.getByRole('textbox', { name: 'Title of the board' })).toHaveValue('Renamed next door');
  await expect(
    second.getByRole('status').filter({ hasText: 'Someone else changed this board' }),
  ).toBeVisible();
});

test('a reload in the middle loses nothing', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
  await page.getByRole('textbox', { name: 'Title of the board' }).fill('Renamed and gone');
  await page.keyboard.press('Enter');
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Title of the board' })).toHaveValue('Renamed and gone');
});

test('what cannot be saved is said, and saved once it can be', async ({ page, request, expectNoise }) => {
  expectNoise.allow.push(/ERR_FAILED|Failed to load/);
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
  await page.route('**/api/boards/**', (route) => route.abort());
  await page.getByRole('textbox', { name: 'Title of the board' }).fill('Patience');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-part~="save-state"]')).toContainText(
    'Not saved, trying again: The server does not answer',
  );
  await page.unroute('**/api/boards/**');
  await saved(page);
  expect((await (await request.get(`/api/boards/${id}`)).json()).document.title).toBe('Patience');
});

test('a board that is not there, and a chart whose field is gone, say so', async ({
  page,
  request,
  expectNoise,
}) => {
  expectNoise.allow.push(/404/);
  await page.goto('/boards/nowhere');
  await expect(page.getByRole('heading', { name: 'This board cannot be opened' })).toBeVisible();
  const source = await (await request.get('/api/boards/which-routes-carry-the-sound')).json();
  const document = JSON.parse(JSON.stringify(source.document).replaceAll('"route"', '"berth"'));
  const made = await (await request.post('/api/boards', { data: { document } })).json();
  await page.goto(`/boards/${made.id}`);
  await expect(page.getByRole('figure').first()).toContainText('The dataset has no field "berth" any more.');
});

for (const [name, path] of [
  ['home', '/'],
  ['bench', '/boards/which-routes-carry-the-sound'],
  ['show', '/show/when-is-the-sound-busiest'],
  ['dataset', '/datasets/ollen-sound-ferries'],
  ['databases', '/databases'],
] as const)
  for (const colorScheme of ['light', 'dark'] as const)
    test(`axe finds nothing serious: ${name}, ${colorScheme}`, async ({ page }) => {
      await page.emulateMedia({ colorScheme });
      await page.goto(path);
      await expect(page.getByRole('heading').first()).toBeVisible();
      await page.waitForLoadState('networkidle');
      expect(await seriousFindings(page)).toEqual([]);
      const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      expect(overflow).toBeLessThanOrEqual(0);
    });

test('words are changed by keyboard alone', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-key]')).toHaveCount(14);
  const order = await allKeys(chart);
  await word(page, 'Order: largest first').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('radio', { name: 'largest first' })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  // The chart follows while the editor is open.
  await expect.poll(async () => (await allKeys(chart)).at(-1)).toBe(order[0]);
  await page.keyboard.press('Enter');
  await expect(word(page, 'Order: smallest first')).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  expect(await allKeys(chart)).toEqual(order);
});

test('charts are added, copied and removed, and pointing shows what reaches what', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await expect(page.getByRole('figure')).toHaveCount(4);
  await leverNamed(page, 'Routes').hover();
  await expect(page.locator('[data-part~="cell"].is-reached')).toHaveCount(2);
  await page.locator('[data-sentence="cue-filter-years"]').hover();
  await expect(page.locator('.is-spoken [data-lever]')).toHaveAttribute('data-lever', 'years');
  await page.getByRole('button', { name: '+ chart' }).click();
  await expect(page.getByRole('figure')).toHaveCount(5);
  await page.getByRole('button', { name: 'Copy chart' }).click();
  await expect(page.getByRole('figure')).toHaveCount(6);
  await page.getByRole('textbox', { name: 'Title of the chart' }).fill('A title of its own');
  await page.keyboard.press('Enter');
  await expect(chartNamed(page, 'A title of its own')).toBeVisible();
  await page.getByRole('button', { name: 'Remove chart' }).click();
  await expect(page.getByRole('figure')).toHaveCount(5);
  await page.locator('[data-sentence="shows"]').hover();
  await saved(page);
  const { document } = await (await request.get(`/api/boards/${id}`)).json();
  expect(document.charts).toHaveLength(5);
});

test('a formula lights marks while it is typed, and a mistake is marked where it stands', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by route');
  await page.getByRole('combobox', { name: /Add a sentence/ }).fill('where a formula is true');
  await page.getByRole('listbox', { name: 'Sentences' }).getByRole('option').first().click();
  await word(page, /^Formula/).click();
  const formula = page.getByRole('textbox', { name: 'Formula' });
  await formula.fill("route LIKE 'Quel%' OR RANK() OVER (ORDER BY passengers) = 1");
  await expect(page.getByText('SQL condition. Marks for which it is true are lit.')).toBeVisible();
  await expect
    .poll(async () => (await keysIn(chart, 'lit')).filter((key) => key.startsWith('Quel')))
    .toHaveLength(2);
  await formula.fill("rout LIKE 'Quel%'");
  await expect(page.getByRole('status').filter({ hasText: 'Is route meant?' })).toBeVisible();
  await expect(page.locator('[data-part~="formula"] mark')).toHaveText('rout');
  // What is offered, if anything is, goes first.
  await expect(async () => {
    await formula.press('Escape', { timeout: 1000 });
    await expect(formula).toHaveCount(0, { timeout: 500 });
  }).toPass();
  await expect(word(page, 'Formula: RANK() OVER (ORDER BY value DESC) <= 3')).toBeVisible();
  await saved(page);
  await page.reload();
  await expect.poll(async () => (await keysIn(chart, 'lit')).length).toBeGreaterThanOrEqual(3);
});
