import { expect, ownBoard, seriousFindings, test } from './fixtures';

test('whoever has no board yet sees the way to one', async ({ page }) => {
  await page.route('**/api/boards', (route) => route.fulfill({ json: [] }));
  await page.goto('/');
  const steps = page.getByRole('list', { name: 'How it goes' }).getByRole('listitem');
  await expect(steps).toHaveCount(3);
  await expect(steps.first()).toContainText('Drop a table');
  await expect(steps.locator('svg')).toHaveCount(3);
  expect(await seriousFindings(page)).toEqual([]);
});

test("a word of Sorvik's own is explained until that has been read", async ({ page, request }) => {
  await page.clock.install();
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const wiring = page.getByRole('button', { name: 'Wiring', exact: true });
  const dotted = () => wiring.evaluate((button) => getComputedStyle(button).textDecorationStyle);
  expect(await dotted()).toBe('dotted');
  await wiring.focus();
  const tip = page.getByRole('tooltip');
  await expect(tip).toContainText('which lever reaches which chart');
  // Left at once, it has not been read.
  await wiring.blur();
  await expect(tip).toHaveCount(0);
  expect(await dotted()).toBe('dotted');
  await wiring.focus();
  await expect(tip).toBeVisible();
  await page.clock.fastForward(2000);
  await wiring.blur();
  await expect.poll(dotted).not.toBe('dotted');
  await page.reload();
  await expect(wiring).toBeVisible();
  expect(await dotted()).not.toBe('dotted');
});

test('a chart of which nothing is said offers the first sentences, and says what cannot be said and why', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  const { document, revision } = await (await request.get(`/api/boards/${id}`)).json();
  const bare = { ...document.charts[0], cues: [], touches: [], guides: [] };
  delete bare.place;
  const patched = await request.patch(`/api/boards/${id}`, {
    data: [
      { op: 'replace', path: '/charts', value: [bare] },
      { op: 'replace', path: '/levers', value: [] },
      ...(document.moments ? [{ op: 'remove', path: '/moments' }] : []),
    ],
    headers: { 'if-match': `"${revision}"` },
  });
  expect(patched.status(), await patched.text()).toBe(200);
  await page.goto(`/boards/${id}`);
  const levers = page.getByRole('complementary', { name: 'Levers' });
  await expect(levers).toContainText('what viewers move, and charts answer');
  const first = page.getByRole('list', { name: 'For example' });
  await expect(first.getByRole('button')).toHaveCount(4);

  const line = page.getByRole('combobox', { name: 'Add a sentence to this chart' });
  await line.fill('current time');
  await expect(page.locator('[data-part~="not-offered"]')).toContainText('Route is no time.');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await line.fill('');
  await line.blur();

  await first.getByRole('button', { name: /Lights picked bars/ }).click();
  await expect(first).toHaveCount(0);
  await expect(levers.getByRole('group')).toHaveCount(1);
  await expect(levers).not.toContainText('charts answer');
});
