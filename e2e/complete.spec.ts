import { plainChart } from '@sorvik/core/testing/documents';
import {
  allKeys,
  chartNamed,
  expect,
  importCsv,
  keysIn,
  leverNamed,
  mark,
  ownBoard,
  saved,
  seriousFindings,
  test,
  word,
} from './fixtures';

test('a newcomer gets from a file to a count that lights the largest in a handful of actions', async ({
  page,
}) => {
  const began = Date.now();
  let actions = 0;
  const act = async (what: Promise<unknown>) => {
    actions++;
    await what;
  };
  await page.goto('/');
  const rows = Array.from({ length: 60 }, (_, i) => `Quay ${i % 9},${((i * 37) % 100) + i}`);
  await act(
    page.getByLabel('Data or board file').setInputFiles({
      name: 'Landings.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(`Quay,Boats\n${rows.join('\n')}\n`),
    }),
  );
  await act(
    page.getByRole('region', { name: 'Import of Landings.csv' }).getByRole('link', { name: /board/ }).click(),
  );
  await act(page.getByRole('button', { name: /^Which quay has the most boats/ }).click());
  const chart = chartNamed(page, 'Boats by quay');
  await expect.poll(() => keysIn(chart, 'lit')).toHaveLength(3);
  await expect.poll(() => keysIn(chart, 'muted')).toHaveLength(6);
  const count = leverNamed(page, 'Count').getByRole('slider').first();
  await act(count.focus());
  await act(page.keyboard.press('ArrowRight'));
  await expect.poll(() => keysIn(chart, 'lit')).toEqual((await allKeys(chart)).slice(0, 4));
  expect(actions).toBeLessThanOrEqual(5);
  expect(Date.now() - began).toBeLessThan(60_000);
});

test('a sentence is switched off and on, and said on other charts in one step', async ({ page, request }) => {
  const id = await ownBoard(request, 'where-do-we-leave-the-corridor');
  await page.goto(`/boards/${id}`);
  const first = page.getByRole('figure').first();
  await expect.poll(async () => (await keysIn(first, 'lit')).length).toBeGreaterThan(0);
  const lines = page.locator('[data-sentence^="cue-"]');
  const count = await lines.count();
  for (let i = 0; i < count; i++) {
    await lines.nth(i).hover();
    await lines
      .nth(i)
      .getByRole('button', { name: /^Switch off/ })
      .click();
  }
  await expect.poll(() => keysIn(first, 'lit')).toEqual([]);
  await expect(lines.first()).toHaveAttribute('data-off', 'yes');
  await saved(page);
  await page.reload();
  await expect(lines.first()).toHaveAttribute('data-off', 'yes');
  await lines
    .first()
    .getByRole('button', { name: /^Switch on/ })
    .click();
  await expect(lines.first()).not.toHaveAttribute('data-off', 'yes');

  // The labels of one chart, on all that can have them.
  await page.getByRole('combobox', { name: 'Add a sentence to this chart' }).fill('labels lit');
  await page.getByRole('listbox', { name: 'Sentences' }).getByRole('option').first().click();
  const labels = page.locator('[data-sentence="labels"]');
  await labels.hover();
  await labels.getByRole('button', { name: /^Copy to other charts/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Copy this sentence to other charts' });
  await dialog.getByRole('checkbox').first().check();
  await dialog.getByRole('button', { name: 'Copy', exact: true }).click();
  await saved(page);
  const { document } = await (await request.get(`/api/boards/${id}`)).json();
  expect(document.charts[1].labels).toBe(document.charts[0].labels);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await saved(page);
  const undone = await (await request.get(`/api/boards/${id}`)).json();
  expect(undone.document.charts[1].labels).not.toBe(undone.document.charts[0].labels);
});

test('the wiring says what each lever does, and changes it', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await page.getByRole('button', { name: 'Wiring' }).click();
  const wiring = page.getByRole('region', { name: 'Wiring' });
  const cell = (name: RegExp) => wiring.getByRole('button', { name });
  await expect(cell(/^Routes and Passengers by route: lights, sets the lever/)).toBeVisible();
  // Drawn: a line from each lever to each chart that it does something to, none to another.
  const drawn = wiring.locator('[data-part~="wires"]');
  const { document: board } = await (await request.get(`/api/boards/${id}`)).json();
  await expect(drawn.locator('svg path').filter({ visible: true })).not.toHaveCount(0);
  await expect(drawn.getByRole('button', { name: 'Passengers by year' })).toBeVisible();
  await expect(drawn.getByText('lights, sets the lever').first()).toBeVisible();
  await expect(drawn.locator('[data-from]')).toHaveCount(board.levers.length);
  await expect(drawn.locator('[data-to]')).toHaveCount(board.charts.length);
  expect(await seriousFindings(page)).toEqual([]);
  await cell(/^Routes and Passengers by year: filters/).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Filters to rows whose route is in Routes');
  await dialog.getByRole('button', { name: /^Remove: Filters to/ }).click();
  await expect(cell(/^Routes and Passengers by year: nothing/)).toBeVisible();
  await dialog.getByRole('button', { name: /Filters by/ }).click();
  await expect(cell(/^Routes and Passengers by year: filters/)).toBeVisible();
  await page.keyboard.press('Escape');
  await wiring.getByRole('button', { name: 'Back to the board' }).click();
  await expect(page.getByRole('figure').first()).toBeVisible();
});

test('viewers see what was published; versions lead back; a copy is tried on and folded back', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const title = page.getByLabel('Title of the board');
  const rename = async (to: string) => {
    await title.fill(to);
    await title.press('Enter');
    await saved(page);
  };
  await rename('First state');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page
    .getByRole('dialog', { name: 'What viewers see' })
    .getByRole('button', { name: 'Publish' })
    .click();
  await expect(page.getByRole('button', { name: 'Published' })).toBeVisible();
  await rename('Second state');
  const viewer = await page.context().newPage();
  await viewer.goto(`/show/${id}`);
  await expect(viewer.getByRole('heading', { level: 1 })).toHaveText('First state');
  await viewer.goto(`/show/${id}/draft`);
  await expect(viewer.getByRole('heading', { level: 1 })).toHaveText('Second state');
  await viewer.close();
  await page.getByRole('button', { name: 'Publish changes' }).click();
  const publish = page.getByRole('dialog', { name: 'What viewers see' });
  await expect(publish).toContainText('added Title: Second state');
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('button', { name: 'Versions' }).click();
  const versions = page.getByRole('region', { name: 'Versions of the board' });
  await versions.getByRole('button', { name: /published/ }).click();
  const name = versions.getByLabel('Name of this version');
  await name.fill('As shown');
  await name.press('Enter');
  await expect(versions.getByRole('button', { name: /^As shown/ })).toBeVisible();
  expect(await seriousFindings(page)).toEqual([]);
  await versions.getByRole('button', { name: 'Restore this version' }).click();
  await expect(title).toHaveValue('First state');
  await versions.getByRole('button', { name: 'Back to the board' }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(title).toHaveValue('Second state');
  await saved(page);

  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('button', { name: 'Edit a working copy' }).click();
  const bar = page.getByRole('region', { name: 'Working copy' });
  await expect(bar).toContainText('Changes here do not affect "Second state"');
  await expect(page.getByRole('button', { name: /^Publish/ })).toHaveCount(0);
  await rename('Tried');
  expect((await (await request.get(`/api/boards/${id}`)).json()).document.title).toBe('Second state');
  await bar.getByRole('button', { name: 'Apply to the original' }).click();
  await expect(page).toHaveURL(new RegExp(`/boards/${id}$`));
  await expect(title).toHaveValue('Tried');
  // Taken back, the copy is there again and the board as it was; then it is folded once more.
  const notice = page.locator('[data-part~="notices"] .toast', {
    hasText: 'Changes applied',
  });
  await notice.getByRole('button', { name: 'Undo' }).click();
  await expect(bar).toContainText('Changes here do not affect "Second state"');
  await expect(title).toHaveValue('Tried');
  expect((await (await request.get(`/api/boards/${id}`)).json()).document.title).toBe('Second state');
  await bar.getByRole('button', { name: 'Apply to the original' }).click();
  await expect(page).toHaveURL(new RegExp(`/boards/${id}$`));
  await expect(title).toHaveValue('Tried');
  // It is a step like any other, too: Undo takes it back on the board itself.
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(title).toHaveValue('Second state');
  await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect(title).toHaveValue('Tried');
  await saved(page);

  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('button', { name: 'Edit a working copy' }).click();
  await rename('Thrown away');
  await bar.getByRole('button', { name: 'Discard copy' }).click();
  await expect(title).toHaveValue('Tried');
});

test('everything is found by its words, and the keys are listed', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by route');
  await expect(mark(chart, 'Quel – Ostrin')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('region', { name: 'Keys' })).toContainText('undo; with Shift, redo');
  expect(await seriousFindings(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('ControlOrMeta+k');
  await page.keyboard.type('add top bottom bars');
  await page.keyboard.press('Enter');
  await expect(leverNamed(page, 'Count')).toBeVisible();
  // Whatever has a button is a command, too; a word of a sentence is opened.
  for (const [typed, opens] of [
    ['publish', 'What viewers see'],
    ['change order largest', 'Order'],
    ['+ lever', 'A new lever'],
  ]) {
    await page.keyboard.press('ControlOrMeta+k');
    await page.keyboard.type(typed!);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog', { name: opens!, exact: true })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog', { name: opens!, exact: true })).toHaveCount(0);
  }
  await page.keyboard.press('ControlOrMeta+k');
  await page.keyboard.type('wiring');
  await expect(page.getByRole('option', { name: 'See the wiring' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Wiring' })).toBeVisible();
});

test('fields become charts, notes say what levers hold, and several are put in order', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const fields = page.getByRole('group', { name: /^Fields of/ });
  await fields.getByRole('button', { name: 'Vessel' }).click();
  await expect(chartNamed(page, 'Passengers by vessel')).toBeVisible();
  await fields.getByRole('button', { name: 'Revenue' }).dragTo(chartNamed(page, 'Passengers by vessel'));
  await expect(chartNamed(page, 'Revenue by vessel')).toBeVisible();

  await page.getByRole('button', { name: '+ note' }).click();
  const note = page.getByRole('textbox', { name: 'Note, in Markdown' });
  await note.fill('# Seen\nRoutes in hand: **{Routes}** <script>alert(1)</script>');
  await page.getByLabel('Title of the chart').focus();
  const shown = page.locator('[data-part~="note"]');
  await expect(shown.getByRole('heading')).toHaveText('Seen');
  await leverNamed(page, 'Routes').getByRole('button', { name: 'none' }).click();
  await leverNamed(page, 'Routes')
    .getByRole('option', { name: /Harl – Vemmen/ })
    .click();
  await expect(shown.locator('strong')).toHaveText('Harl – Vemmen');
  await saved(page);
  const { document } = await (await request.get(`/api/boards/${id}`)).json();
  expect(document.notes[0].text).toContain('{routes}');

  await page.keyboard.press('ControlOrMeta+k');
  await page.keyboard.type('select everything');
  await page.keyboard.press('Enter');
  const selected = page.getByRole('region', { name: 'What is selected' });
  await expect(selected).toContainText('6 selected');
  await selected.getByRole('button', { name: 'Stack vertically' }).click();
  const lefts = await page
    .locator('[data-part~="cell"]')
    .evaluateAll((cells) => new Set(cells.map((cell) => Math.round(cell.getBoundingClientRect().x))).size);
  expect(lefts).toBe(1);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await saved(page);
  await page.goto(`/show/${id}`);
  await expect(page.locator('[data-part~="note"] h1')).toHaveText('Seen');
  expect(await seriousFindings(page)).toEqual([]);
});

test('a board goes out as a file and comes in again, asking for what is missing', async ({
  page,
  request,
}) => {
  const dataset = await importCsv(request, 'Piers', 'Pier,Boats\nx,2\ny,5\n');
  await importCsv(request, 'Quays of others', 'Place,Ships\na,2\nb,5\n');
  const made = await request.post('/api/boards', {
    data: {
      document: {
        version: 1,
        title: 'Piers abroad',
        levers: [],
        charts: [
          plainChart(dataset, {
            by: { field: 'pier' },
            measure: { aggregate: 'formula', text: 'SUM(boats) * 2' },
            order: { by: 'value', direction: 'descending' },
          }),
        ],
      },
    },
  });
  const { id } = await made.json();
  await page.goto(`/boards/${id}`);
  await page.getByRole('button', { name: 'More' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save as a file', exact: true }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('piers-abroad.sorvik.json');
  const path = await download.path();

  await page.goto('/');
  const chooser = page.getByLabel('Data or board file');
  const { readFileSync } = await import('node:fs');
  await chooser.setInputFiles({
    name: 'piers.json',
    mimeType: 'application/json',
    buffer: readFileSync(path),
  });
  const card = page.getByRole('region', { name: 'Board file piers.json' });
  await expect(card).toContainText('All 2 fields that the board names are there.');
  await card.getByLabel('For Piers').selectOption({ label: 'Quays of others' });
  await expect(card).toContainText('Pier and Boats are not in Quays of others');
  await expect(card.getByRole('button', { name: 'Create board' })).toBeDisabled();
  await card.getByLabel('Pier (text)').selectOption({ label: 'Place (text)' });
  await card.getByLabel('Boats (integer)').selectOption({ label: 'Ships (integer)' });
  await card.getByRole('button', { name: 'Create board' }).click();
  const chart = page.getByRole('figure').first();
  await expect.poll(() => allKeys(chart)).toEqual(['b', 'a']);
  await expect(word(page, /^Measure/)).toContainText('SUM(ships) * 2');

  // With its data it needs nothing that is here.
  const zip = await (await request.get(`/api/boards/${id}/file?data=true`)).body();
  await page.goto('/');
  await chooser.setInputFiles({ name: 'piers.zip', mimeType: 'application/zip', buffer: zip });
  await expect.poll(() => allKeys(page.getByRole('figure').first())).toEqual(['y', 'x']);

  await page.goto('/');
  await chooser.setInputFiles({
    name: 'broken.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{'),
  });
  await expect(page.getByRole('region', { name: 'Import of broken.json' })).toContainText(
    'cannot be read as JSON',
  );
});

test('a chart, a sentence and a lever are copied from board to board by keyboard, and taken back', async ({
  page,
  request,
}) => {
  const from = await ownBoard(request);
  const to = await ownBoard(request, 'when-is-the-sound-busiest');
  await page.goto(`/boards/${from}`);
  const copied = () =>
    page.evaluate(() => {
      const data = new DataTransfer();
      document.activeElement!.dispatchEvent(
        new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true }),
      );
      return data.getData('text/plain');
    });
  const paste = (text: string) =>
    page.evaluate((given) => {
      const data = new DataTransfer();
      data.setData('text/plain', given);
      document.body.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
    }, text);
  await expect(page.getByRole('figure').first().locator('[data-key]').first()).toBeVisible();
  await page.getByRole('figure').first().locator('[data-part~="chart-title"]').click();
  const chart = await copied();
  await expect(page.getByText(/Copied the chart/)).toBeVisible();
  await page.locator('[data-sentence^="cue-"]').first().getByRole('button').first().focus();
  const sentence = await copied();
  await page.locator('[data-lever]').first().getByRole('button').first().focus();
  const lever = await copied();
  expect([chart, sentence, lever].map((text) => JSON.parse(text).sorvik)).toEqual([
    'chart',
    'sentence',
    'lever',
  ]);

  await page.goto(`/boards/${to}`);
  const figures = page.getByRole('figure');
  await expect(figures.first().locator('[data-key]').first()).toBeVisible();
  const charts = await figures.count();
  const levers = await page.locator('[data-lever]').count();
  await paste(chart);
  await expect(figures).toHaveCount(charts + 1);
  await expect(page.locator('[data-lever]').filter({ hasText: 'Routes' })).toHaveCount(1);
  await paste(lever);
  await expect(page.locator('[data-lever]').filter({ hasText: 'Routes 2' })).toHaveCount(1);
  await saved(page);
  await paste('{"sorvik":"chart"}');
  await paste('any other text');
  await expect(figures).toHaveCount(charts + 1);
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(figures).toHaveCount(charts);
  await expect(page.locator('[data-lever]')).toHaveCount(levers);
  await saved(page);
});
