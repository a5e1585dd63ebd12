import { chartNamed, expect, keysIn, leverNamed, mark, ownBoard, saved, test, word } from './fixtures';

test('every mark says why it is lit or muted: to the pointer, to the keyboard, and as it changes', async ({
  page,
}) => {
  await page.goto('/show/who-leads-who-trails');
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(3);
  await mark(chart, 'Quel – Ostrin').locator('[data-part~="bar"]').hover();
  const tip = chart.getByRole('tooltip');
  await expect(tip).toContainText(
    /Lit: rank 1 of 14 from the highest by total passengers .*, within Count 3\./,
  );
  const bar = (await mark(chart, 'Quel – Ostrin').locator('[data-part~="bar"]').boundingBox())!;
  const box = (await tip.boundingBox())!;
  const apart =
    box.x >= bar.x + bar.width ||
    box.x + box.width <= bar.x ||
    box.y >= bar.y + bar.height ||
    box.y + box.height <= bar.y;
  expect(apart).toBe(true);
  await page.mouse.move(640, 4);
  await expect(tip).toBeHidden();

  await chart.locator('[data-part~="plot"] svg').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  const said = chart.locator('[data-part~="tip"]');
  await expect(said).toContainText(/Muted: rank 4 of 14 .*; Count is 3\./);
  await expect(said).toHaveAttribute('role', 'status');
  await page.keyboard.press('Home');
  await expect(said).toContainText('Lit: rank 1 of 14');
  await leverNamed(page, 'Count').getByRole('slider').focus();
  await expect(said).toBeHidden();
});

test('what is under the pointer is lit in passing, and leaves no trace', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}?routes=`);
  const chart = chartNamed(page, 'Passengers by route');
  await expect(mark(chart, 'Harl – Vemmen')).toHaveAttribute('data-state', 'plain');
  const say = page.getByRole('combobox', { name: /Add a sentence/ });
  await say.fill('under the pointer');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.goto(`/show/${id}?routes=`);
  await expect(mark(chart, 'Harl – Vemmen')).toBeVisible();
  const keys = ['Harl – Vemmen', 'Ostrin – Tarsk', 'Quel – Ilvoe'];
  for (const key of keys) {
    // What is there in the very next frame.
    await mark(chart, key).locator('[data-part~="bar"]').hover();
    expect(await keysIn(chart, 'lit')).toEqual([key]);
  }
  await page.mouse.move(640, 4);
  expect(await keysIn(chart, 'plain')).toHaveLength(14);
  expect(new URL(page.url()).search).toBe('?routes=');
  // A click still picks, and pointing elsewhere does not take it away.
  await mark(chart, keys[0]!).locator('[data-part~="bar"]').click();
  await mark(chart, keys[1]!).locator('[data-part~="bar"]').hover();
  expect((await keysIn(chart, 'lit')).sort()).toEqual([keys[0], keys[1]]);
});

test('conditions are joined, turned round and taken apart in their sentence', async ({ page, request }) => {
  const id = await ownBoard(request, 'who-leads-who-trails');
  await page.goto(`/boards/${id}?count=5`);
  const chart = page.getByRole('figure').first();
  await expect(chart.locator('[data-state="lit"]')).toHaveCount(5);
  const order = await keysIn(chart, 'lit');
  await word(page, /^Combine/)
    .first()
    .click();
  await page.getByRole('radio', { name: 'and picked' }).click();
  const desk = page.getByRole('region', { name: /Sentences/ });
  await expect(desk).toContainText(/ties all lit and whose route is in Route/);
  // Nothing is picked: that part rests.
  expect(await keysIn(chart, 'lit')).toHaveLength(5);
  await leverNamed(page, 'Route').getByRole('option', { name: order[1]! }).click();
  expect(await keysIn(chart, 'lit')).toEqual([order[1]]);
  await word(page, 'And or or: and').click();
  await page.getByRole('radio', { name: 'or', exact: true }).click();
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'lit')).toHaveLength(5);
  await word(page, /^Combine/)
    .first()
    .click();
  await page.getByRole('radio', { name: 'not (invert)' }).click();
  await page.keyboard.press('Enter');
  expect(await keysIn(chart, 'lit')).toHaveLength(9);
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
  expect(await keysIn(chart, 'lit')).toHaveLength(5);
});

test('the latest month lights by itself', async ({ page, request }) => {
  const id = await ownBoard(request, 'where-do-we-leave-the-corridor');
  await page.goto(`/boards/${id}?corridor=0..200000`);
  const chart = chartNamed(page, 'Passengers by month');
  const say = page.getByRole('combobox', { name: /Add a sentence/ });
  await say.fill('latest month');
  await page.keyboard.press('Enter');
  await expect(mark(chart, '2024-12-01')).toHaveAttribute('data-state', 'lit');
  await word(page, /^Latest of/).click();
  await page.getByRole('radio', { name: /^business day the last before/ }).click();
  await page.keyboard.press('Enter');
  await expect(mark(chart, '2024-12-01')).toHaveAttribute('data-state', 'lit');
});

test("a look takes a colour of the author's own; one that is hard to tell from muted is said", async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const chart = chartNamed(page, 'Passengers by route');
  const bar = mark(chart, 'Quel – Ostrin').locator('[data-part~="bar"]');
  const fill = () => bar.evaluate((element) => getComputedStyle(element).fill);
  await expect(bar).toBeVisible();
  await word(page, /^Look/).first().click();
  const own = page.getByRole('textbox', { name: 'A colour of your own' });
  await own.fill('rgb(120, 20, 90)');
  await expect.poll(fill).toBe('rgb(120, 20, 90)');
  await own.fill('#d0c8bb');
  await expect.poll(fill).toBe('rgb(208, 200, 187)');
  await expect(page.getByRole('region', { name: /Sentences/ })).toContainText(
    '#d0c8bb is too close to the muted colour in the light theme',
  );
  await page.getByRole('button', { name: /^Take #/ }).click();
  await expect(page.getByRole('region', { name: /Sentences/ })).not.toContainText(
    'too close to the muted colour',
  );
  await own.fill('reddish');
  await expect(page.getByText('A colour, as #b8441c')).toBeVisible();
  await page.keyboard.press('Enter');
  await saved(page);
  await word(page, /^Look/).first().click();
  await page.getByRole('radio', { name: 'green' }).click();
  await expect.poll(fill).toBe('rgb(26, 103, 79)');
});
