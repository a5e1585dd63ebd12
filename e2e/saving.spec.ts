import type { Page } from '@playwright/test';
import { chartNamed, expect, ownBoard, saved, test } from './fixtures';

/** Saves arrive, and their answers are lost, until what this gives is called. */
async function loseAnswers(page: Page, id: string): Promise<() => Promise<void>> {
  const address = `**/api/boards/${id}`;
  await page.route(address, async (route) => {
    if (route.request().method() !== 'PATCH') return route.fallback();
    await route.fetch();
    await route.abort();
  });
  return () => page.unroute(address);
}

const title = (page: Page) => page.getByRole('textbox', { name: 'Title of the board' });
const rename = async (page: Page, text: string) => {
  await title(page).fill(text);
  await page.keyboard.press('Enter');
};
const conflict = (page: Page) => page.getByRole('alert', { name: 'This board was changed elsewhere' });

test.describe('a save whose answer is lost', () => {
  test.beforeEach(({ expectNoise }) => {
    expectNoise.allow.push(/ERR_FAILED|412/);
  });

  test('is sent again, and done once', async ({ page, request }) => {
    const id = await ownBoard(request);
    const { revision } = await (await request.get(`/api/boards/${id}`)).json();
    await page.goto(`/boards/${id}`);
    await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
    const answersAgain = await loseAnswers(page, id);
    await rename(page, 'Once');
    await expect(page.locator('[data-part~="save-state"]')).toContainText('Not saved, trying again');
    await answersAgain();
    await saved(page);
    await expect(conflict(page)).toBeHidden();
    const now = await (await request.get(`/api/boards/${id}`)).json();
    expect(now.document.title).toBe('Once');
    expect(now.revision).toBe(revision + 1);
  });

  test('is nobody else’s change, however much was changed since', async ({ page, request }) => {
    const id = await ownBoard(request);
    await page.goto(`/boards/${id}`);
    await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
    const answersAgain = await loseAnswers(page, id);
    for (const text of ['First', 'Second', 'Third']) {
      const sent = page.waitForEvent('requestfailed', (failed) => failed.method() === 'PATCH');
      await rename(page, text);
      await sent;
    }
    await answersAgain();
    await saved(page);
    await expect(conflict(page)).toBeHidden();
    await expect(title(page)).toHaveValue('Third');
    expect((await (await request.get(`/api/boards/${id}`)).json()).document.title).toBe('Third');
  });

  test('is taken back where the change was', async ({ page, request }) => {
    const id = await ownBoard(request);
    await page.goto(`/boards/${id}`);
    await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
    const before = await title(page).inputValue();
    const answersAgain = await loseAnswers(page, id);
    await rename(page, 'Taken back');
    await expect(page.locator('[data-part~="save-state"]')).toContainText('Not saved, trying again');
    await page.getByRole('button', { name: /^Undo/ }).click();
    await answersAgain();
    await saved(page);
    await expect(title(page)).toHaveValue(before);
    expect((await (await request.get(`/api/boards/${id}`)).json()).document.title).toBe(before);
  });

  test('does not hide what somebody else changed after it', async ({ page, request }) => {
    const id = await ownBoard(request);
    await page.goto(`/boards/${id}`);
    await expect(chartNamed(page, 'Passengers by route')).toBeVisible();
    const answersAgain = await loseAnswers(page, id);
    await rename(page, 'Mine');
    await expect(page.locator('[data-part~="save-state"]')).toContainText('Not saved, trying again');
    const { revision } = await (await request.get(`/api/boards/${id}`)).json();
    const theirs = await request.patch(`/api/boards/${id}`, {
      headers: { 'if-match': `"${revision}"`, 'content-type': 'application/json-patch+json' },
      data: JSON.stringify([{ op: 'replace', path: '/title', value: 'Theirs' }]),
    });
    expect(theirs.status()).toBe(200);
    await rename(page, 'Mine again');
    await answersAgain();
    await expect(conflict(page)).toBeVisible();
  });
});

test('what was done can be undone after a reload, and done again', async ({ page, request }) => {
  const id = await ownBoard(request);
  await page.goto(`/boards/${id}`);
  const title = page.getByRole('textbox', { name: 'Title of the board' });
  const before = await title.inputValue();
  await title.fill('Tried out');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.reload();
  await expect(title).toHaveValue('Tried out');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(title).toHaveValue(before);
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(title).toHaveValue('Tried out');
});
