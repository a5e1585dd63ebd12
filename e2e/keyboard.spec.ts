import type { Page } from '@playwright/test';
import { chartNamed, expect, keysIn, leverNamed, ownBoard, saved, test, word } from './fixtures';

/** What has the focus, in words; "page" where nothing has. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const { activeElement: element } = document;
    if (!element || element === document.body) return 'page';
    return element.getAttribute('aria-label') ?? element.textContent?.trim() ?? element.tagName;
  });

test('a menu takes the focus, arrows lead through it, and it gives the focus back', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const more = page.getByRole('button', { name: 'More', exact: true });
  await more.focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'The board as a whole' });
  expect(await dialog.evaluate((each) => each.contains(document.activeElement))).toBe(true);
  await page.keyboard.press('Escape');
  await expect(more).toBeFocused();

  const chart = chartNamed(page, 'Passengers by route');
  const menu = chart.getByRole('button', { name: /^Export/ });
  await menu.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Copy as image' })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: "Copy the image's address" })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: 'Save as PNG' })).toBeFocused();
  for (let up = 0; up < 3; up++) await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('button', { name: 'Download the data (Arrow)' })).toBeFocused();
  await page.keyboard.press('Tab');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(chart.getByRole('button', { name: /^List the values/ })).toBeFocused();

  // A word: what opens has the focus at once, and what is tried ends with Tab past the end as with Enter.
  const look = word(page, /^Look: /).first();
  await look.focus();
  await page.keyboard.press('Enter');
  const editor = page.getByRole('dialog', { name: 'Look' });
  expect(await editor.evaluate((each) => each.contains(document.activeElement))).toBe(true);
  await page.keyboard.press('Shift+Tab');
  await expect(editor).toHaveCount(0);
  expect(await focused(page)).not.toBe('page');
});

test('nothing drops the focus: removing, the last undo, Esc from wiring, publishing, the palette', async ({
  page,
  request,
}) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  await expect(chartNamed(page, 'Passengers by year')).toBeVisible();
  const press = async (name: string | RegExp) => {
    await page.getByRole('button', { name }).first().focus();
    await page.keyboard.press('Enter');
  };

  const lines = page.locator('[data-part~="sentence"]');
  await expect(lines.first()).toBeVisible();
  const before = await lines.count();
  await press(/^Remove: /);
  await expect.poll(() => lines.count()).toBeLessThan(before);
  await expect.poll(() => focused(page)).toMatch(/^(Remove|Switch|Copy)/);

  await press('Remove chart');
  await expect.poll(() => focused(page)).not.toBe('page');
  await press(/^Undo/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  await expect.poll(() => focused(page)).toBe('Redo');

  await press('Wiring');
  await expect(page.getByRole('button', { name: 'Back to the board', exact: true })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect.poll(() => focused(page)).toBe('Wiring');

  await page.keyboard.press('Control+k');
  await page.keyboard.type('versions');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Versions of the board' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect.poll(() => focused(page)).toBe('Wiring');

  await saved(page);
  await press(/^Publish/);
  await expect(
    page.getByRole('dialog', { name: 'What viewers see' }).getByRole('button', { name: 'Publish' }),
  ).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Published' })).toBeFocused();
});

test('Page keys move as far on the plot as on the slider; Esc closes a sheet before it clears', async ({
  page,
}) => {
  await page.goto('/show/where-do-we-leave-the-corridor');
  const line = page.getByRole('slider', { name: /upper limit, line on the plot/ }).first();
  await expect(line).toBeAttached();
  const slider = leverNamed(page, 'Corridor').getByRole('slider', { name: /upper/ });
  const at = async () => Number(await slider.getAttribute('aria-valuenow'));
  const start = await at();
  await slider.press('PageDown');
  const bySlider = start - (await at());
  expect(bySlider).toBeGreaterThan(0);
  await line.press('PageDown');
  expect(start - (await at())).toBeCloseTo(2 * bySlider, 6);

  await page.goto('/show/which-routes-carry-the-sound');
  const chart = page.locator('[data-part~="chart"]').first();
  await expect(chart.locator('[data-state="lit"]').first()).toBeVisible();
  const lit = await keysIn(chart, 'lit');
  await chart.getByRole('listbox').press('ArrowDown');
  const sheet = chart.locator('[data-part~="tip"]');
  await expect(sheet).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
  expect(await keysIn(chart, 'lit')).toEqual(lit);
  await page.keyboard.press('Escape');
  await expect.poll(() => keysIn(chart, 'lit')).not.toEqual(lit);
});

test('what is typed while a list opens is searched for in it', async ({ page }) => {
  await page.goto('/show/what-sails-now');
  const route = page.getByRole('button', { name: /^Route: / });
  await route.focus();
  // Without a pause between the keys: the list is still on its way.
  await page.keyboard.type('ostr');
  const list = page.getByRole('dialog', { name: 'Route' });
  await expect(list.getByRole('combobox')).toHaveValue('ostr');
  const first = (await list.getByRole('option').first().textContent())!;
  expect(first).toMatch(/Ostr/);
  await page.keyboard.press('Enter');
  await expect(route).toBeFocused();
  await expect(route).toHaveText(first);
});
