import type { APIRequestContext } from '@playwright/test';
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

const makeBoard = async (request: APIRequestContext, document: object): Promise<string> => {
  const made = await request.post('/api/boards', { data: { document: { version: 1, ...document } } });
  expect(made.status(), await made.text()).toBe(201);
  return (await made.json()).id;
};
const revision = async (request: APIRequestContext, id: string): Promise<number> =>
  (await (await request.get(`/api/boards/${id}`)).json()).revision;

test('a sentence brings the levers it needs, in one step; they answer at once', async ({ page, request }) => {
  const dataset = await importCsv(
    request,
    'Landings by quay',
    `quay,boats\n${['Quel', 'Harl', 'Ostrin', 'Tarsk', 'Brask'].map((quay, i) => `${quay},${(i + 1) * 100}`).join('\n')}\n`,
  );
  const id = await makeBoard(request, {
    title: 'Quays',
    levers: [],
    charts: [
      plainChart(dataset, {
        id: 'c',
        form: 'columns',
        by: { field: 'quay' },
        measure: { aggregate: 'sum', field: 'boats' },
        order: { by: 'value', direction: 'descending' },
      }),
    ],
  });
  await page.goto(`/boards/${id}`);
  const chart = page.getByRole('figure');
  await expect(chart.locator('[data-key]')).toHaveCount(5);
  const say = page.getByRole('combobox', { name: /Add a sentence/ });
  await say.fill('top or bottom');
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'lit')).toEqual(['Brask', 'Tarsk', 'Ostrin']);
  await leverNamed(page, 'Count').getByRole('slider').press('ArrowLeft');
  await leverNamed(page, 'Side').getByRole('radio', { name: 'lowest' }).click();
  expect(await keysIn(chart, 'lit')).toEqual(['Harl', 'Quel']);
  await expect(page.getByRole('region', { name: /Sentences/ })).toContainText(
    'Lights columns ranked 1 to Count from the Side, ties all lit',
  );
  await word(page, 'Count: Count').click();
  await page.getByRole('textbox', { name: 'Figure' }).fill('4');
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'lit')).toHaveLength(4);

  await say.fill('two limits');
  await page.keyboard.press('Enter');
  await expect(chart.getByRole('slider')).toHaveCount(2);
  await expect(leverNamed(page, 'Limits').getByRole('slider')).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(chart.getByRole('slider')).toHaveCount(0);
  await expect(leverNamed(page, 'Limits')).toHaveCount(0);
});

test("a lever's move is one step on the bench and never changes the board, until its start is put there", async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'who-leads-who-trails');
  await page.goto(`/boards/${id}`);
  const slider = leverNamed(page, 'Count').getByRole('slider');
  await expect(slider).toHaveAttribute('aria-valuenow', '3');
  const before = await revision(request, id);
  const box = (await leverNamed(page, 'Count').locator('[data-part~="slider-track"]').boundingBox())!;
  const thumb = (await slider.boundingBox())!;
  await page.mouse.move(thumb.x + 5, thumb.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width, thumb.y + 10, { steps: 8 });
  await page.mouse.up();
  await expect(slider).toHaveAttribute('aria-valuenow', '14');
  await leverNamed(page, 'Side').getByRole('radio', { name: 'lowest' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(leverNamed(page, 'Side').getByRole('radio', { name: 'highest' })).toHaveAttribute(
    'aria-checked',
    'true',
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(slider).toHaveAttribute('aria-valuenow', '3');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(slider).toHaveAttribute('aria-valuenow', '14');
  expect(await revision(request, id)).toBe(before);

  await page.getByRole('button', { name: 'Edit Count' }).click();
  await page.getByRole('button', { name: 'Use current position as start' }).click();
  await saved(page);
  expect(await revision(request, id)).toBeGreaterThan(before);
  await page.goto(`/show/${id}`);
  await expect(slider).toHaveAttribute('aria-valuenow', '14');
});

test('levers are put in order by keyboard, above the charts, under a heading, and out of sight', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request, 'where-do-we-leave-the-corridor');
  await page.goto(`/boards/${id}`);
  const names = () => page.locator('[data-part~="levers"] [data-part~="lever-name"]').allTextContents();
  await expect.poll(names).toEqual(['Corridor', 'Shares of the range', 'Corridor of load', 'Routes']);
  await page.getByRole('button', { name: 'Move Corridor', exact: true }).focus();
  await page.keyboard.press('Space');
  await expect(page.locator('.is-dragged')).toHaveCount(1);
  // Where the levers lie is measured once it says where this one is.
  await expect(page.getByText('Corridor is at the place of Corridor.')).toBeAttached();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('Corridor is at the place of Shares of the range.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect.poll(names).toEqual(['Shares of the range', 'Corridor', 'Corridor of load', 'Routes']);

  await page.getByRole('button', { name: 'Edit Corridor', exact: true }).click();
  const card = page.getByRole('region', { name: 'Lever Corridor' });
  await card.getByLabel('Placement').selectOption('above the charts');
  await card.getByLabel('Group').fill('Limits');
  await card.getByLabel('Step').fill('500');
  await card.getByLabel('Step').press('Enter');
  await page.getByRole('button', { name: 'Edit Routes' }).click();
  await page
    .getByRole('region', { name: 'Lever Routes' })
    .getByLabel(/Hidden from viewers/)
    .check();
  await saved(page);
  await page.goto(`/show/${id}?routes=Harl+%E2%80%93+Vemmen`);
  const above = page.getByRole('region', { name: 'Levers above the charts' });
  await expect(above.getByRole('heading', { name: 'Limits' })).toBeVisible();
  await expect(above.getByRole('group', { name: 'Corridor', exact: true })).toBeVisible();
  await expect(page.getByRole('group', { name: 'Routes' })).toHaveCount(0);
  await expect(chartNamed(page, 'Load factor by week').locator('figcaption')).not.toContainText('Only rows');
  await above.getByRole('slider', { name: /lower/ }).press('ArrowRight');
  await expect(above.getByRole('slider', { name: /lower/ })).toHaveAttribute('aria-valuenow', '60500');
});

test('what is doubtful is listed with the way to it', async ({ page, request }) => {
  const id = await ownBoard(request);
  const { document } = await (await request.get(`/api/boards/${id}`)).json();
  document.levers[0].start = ['Quel – Ostrin', 'Quel – Nowhere'];
  document.levers.push({
    kind: 'number',
    id: 'loose',
    name: 'Loose',
    min: 0,
    max: 10,
    step: 1,
    start: 12,
    outside: 'nearest',
    clearing: 'start',
  });
  const doubtful = await makeBoard(request, document);
  await page.goto(`/boards/${doubtful}`);
  await expect(leverNamed(page, 'Routes')).toContainText('Not in the data, ignored: Quel – Nowhere.');
  await page.getByRole('button', { name: '3 warnings' }).click();
  const list = page.getByRole('dialog', { name: 'Warnings' });
  await expect(list.getByRole('listitem')).toHaveText([
    'The start of Routes: Not in the data, ignored: Quel – Nowhere.',
    'The start of Loose: 12 is above the maximum of 10; set to 10.',
    'Loose reaches no chart.',
  ]);
  await list.getByRole('button', { name: 'Loose reaches no chart.' }).click();
  await page
    .getByRole('region', { name: 'Lever Loose' })
    .getByRole('button', { name: 'Remove lever' })
    .click();
  await expect(page.getByRole('button', { name: '1 warning' })).toBeVisible();
});

test('removing a lever leaves the figure it held', async ({ page, request }) => {
  const id = await ownBoard(request, 'who-leads-who-trails');
  await page.goto(`/boards/${id}?count=5`);
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(5);
  await page.getByRole('button', { name: 'Edit Count' }).click();
  await page.getByRole('button', { name: 'Remove lever' }).click();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(5);
  await expect(word(page, 'Count: 5')).toBeVisible();
});

test('a chart takes its levers along to another board, or those that are there', async ({
  page,
  request,
}) => {
  const from = await ownBoard(request, 'who-leads-who-trails');
  const to = await ownBoard(request);
  const title = `Target ${to}`;
  await page.goto(`/boards/${to}`);
  await page.getByRole('textbox', { name: 'Title of the board' }).fill(title);
  await page.keyboard.press('Enter');
  await saved(page);
  await page.goto(`/boards/${from}?count=3`);
  await page.getByRole('button', { name: 'Copy to board…' }).click();
  await page.getByRole('radio', { name: title }).click();
  const dialog = page.getByRole('dialog', { name: 'Copy this chart to another board' });
  await expect(dialog.getByLabel('Count')).toHaveValue('');
  await dialog.getByRole('button', { name: 'Copy' }).click();
  await expect(page.getByText(`The chart is on "${title}" too.`)).toBeVisible();
  await page.goto(`/boards/${to}`);
  const chart = page.locator('[data-chart="passengers"]');
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(3);
  await leverNamed(page, 'Count').getByRole('slider').press('End');
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(14);
  await expect(chart.getByRole('button', { name: 'Year: all' })).toBeVisible();
});

test('the pointer alone can move a lever, and leaving clears it', async ({ page, request }) => {
  const id = await ownBoard(request);
  const { document } = await (await request.get(`/api/boards/${id}`)).json();
  document.charts[0].touches = [{ gesture: 'hover', lever: 'routes' }];
  document.levers[0].start = [];
  const hovering = await makeBoard(request, document);
  await page.goto(`/show/${hovering}`);
  const chart = chartNamed(page, 'Passengers by route');
  await mark(chart, 'Harl – Vemmen').locator('[data-part~="bar"]').hover();
  expect(await keysIn(chart, 'lit')).toEqual(['Harl – Vemmen']);
  await mark(chart, 'Ostrin – Tarsk').locator('[data-part~="bar"]').hover();
  expect(await keysIn(chart, 'lit')).toEqual(['Ostrin – Tarsk']);
  await page.mouse.move(640, 4);
  expect(await keysIn(chart, 'lit')).toEqual([]);
  expect(new URL(page.url()).search).toBe('');
});

test('a list of a hundred thousand values is searched on the server; pasted lists name what is unknown', async ({
  page,
  request,
}) => {
  const rows = Array.from({ length: 100_000 }, (_, i) => `berth ${i},${i % 7}`);
  const dataset = await importCsv(request, 'Berths', `berth,n\n${rows.join('\n')}\n`);
  const id = await makeBoard(request, {
    title: 'Berths',
    levers: [
      {
        kind: 'pick',
        id: 'b',
        name: 'Berths',
        dataset,
        field: 'berth',
        start: ['berth 5', 'pier 1'],
        clearing: 'empty',
      },
    ],
    charts: [
      plainChart(dataset, {
        id: 'c',
        form: 'columns',
        by: { field: 'n' },
        measure: { aggregate: 'count' },
        cues: [
          {
            id: 'k',
            effect: 'light',
            condition: { kind: 'rank', count: 1, side: 'highest', ties: 'first' },
            look: { colour: 'ember' },
            resting: 'plain',
          },
        ],
      }),
    ],
  });
  await page.goto(`/show/${id}`);
  const lever = leverNamed(page, 'Berths');
  await expect(lever).toContainText('Not in the data, ignored: pier 1.');
  // What is picked stands first, and is not met again in its own place.
  await expect(lever.getByRole('option', { selected: true }).first()).toBeVisible();
  await expect(lever.getByRole('option').filter({ hasText: /^berth 0/ })).toHaveCount(1);
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('99 9');
  await expect(lever).toContainText('No match for');
  await lever.getByRole('combobox', { name: /^Find in/ }).fill('berth 9999');
  await expect(lever.getByRole('option')).toHaveCount(11);
  await lever.getByRole('option', { name: 'berth 99990' }).click();
  await expect(lever).toContainText('2 of 100,000');
  await lever.getByRole('button', { name: 'Paste…' }).click();
  await lever.getByRole('textbox', { name: /Values for Berths/ }).fill('berth 7\nberth 8\nquay 1\n');
  await lever.getByRole('button', { name: 'Pick these' }).click();
  await expect(lever).toContainText('Not in the data: quay 1.');
  await lever.getByRole('button', { name: 'Pick the 2 found' }).click();
  await expect(lever).toContainText('2 of 100,000');
  await expect.poll(() => new URL(page.url()).searchParams.getAll('b')).toEqual(['berth 7', 'berth 8']);
});

test('a window moves over two hundred thousand periods', async ({ page, request }) => {
  const rows = Array.from({ length: 200_000 }, (_, i) => `${i + 1},${(i * 7919) % 1000}`);
  const dataset = await importCsv(request, 'Ticks', `tick,n\n${rows.join('\n')}\n`);
  const id = await makeBoard(request, {
    title: 'Ticks',
    levers: [
      {
        kind: 'window',
        id: 'w',
        name: 'Ticks in view',
        dataset,
        field: 'tick',
        length: 100,
        start: 'last',
        clearing: 'start',
      },
    ],
    charts: [
      plainChart(dataset, {
        id: 'c',
        form: 'columns',
        by: { field: 'tick' },
        measure: { aggregate: 'sum', field: 'n' },
        window: { lever: 'w', axis: 'following' },
      }),
    ],
  });
  await page.goto(`/show/${id}`);
  const lever = leverNamed(page, 'Ticks in view');
  await expect(lever).toContainText('199901 – 200000 · 100 of 200,000 ticks');
  const chart = page.getByRole('figure');
  await expect.poll(async () => (await allKeys(chart)).at(-1)).toBe('200000');
  await lever.getByRole('scrollbar').press('PageUp');
  await expect(lever).toContainText('199801 – 199900');
  await lever.getByRole('scrollbar').press('Home');
  await expect.poll(() => allKeys(chart)).toHaveLength(100);
  expect((await allKeys(chart))[0]).toBe('1');
});

test('a list is grouped by a second field, and a group is picked as one', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}?routes=`);
  await page.getByRole('button', { name: 'Edit Routes' }).click();
  const card = page.getByRole('region', { name: 'Lever Routes' });
  await card.getByLabel('Grouped by').selectOption('Vessel');
  const lever = leverNamed(page, 'Routes');
  const group = lever.getByRole('option', { name: 'All of Far Skerry' });
  await expect(group).toBeVisible();
  await group.click();
  await expect(lever).toContainText('2 of 14');
  const chart = chartNamed(page, 'Passengers by route');
  expect((await keysIn(chart, 'lit')).sort()).toEqual(['Harl – Skarrow', 'Skarrow – Aldsey']);
  await card.getByLabel('Starts with').selectOption('the highest by…');
  await card.getByLabel('How many').fill('2');
  await card.getByLabel('How many').press('Enter');
  await lever.getByRole('button', { name: 'Reset Routes' }).click();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(2);
});

for (const board of [
  'who-leads-who-trails',
  'where-do-we-leave-the-corridor',
  'what-changed-after-the-new-pier',
  'what-sails-now',
])
  for (const scheme of ['light', 'dark'] as const)
    test(`axe finds nothing serious with all kinds of levers: ${board}, ${scheme}`, async ({ page }) => {
      await page.emulateMedia({ colorScheme: scheme });
      for (const path of [`/show/${board}`, `/boards/${board}`]) {
        await page.goto(path);
        await page.waitForFunction(
          () => document.querySelector('figure [data-part~="mark"][data-state]') !== null,
        );
        if (path.startsWith('/boards'))
          await page
            .getByRole('button', { name: /^Edit / })
            .first()
            .click();
        expect(await seriousFindings(page)).toEqual([]);
      }
    });
