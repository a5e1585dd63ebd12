import { expect, ownBoard, saved, seriousFindings, test } from './fixtures';

/** What an author says more of the first chart of each board, and what its sentence then begins with. */
const paths: { slug: string; offer: string; says: RegExp }[] = [
  { slug: 'which-routes-carry-the-sound', offer: 'top or bottom', says: /Lights bars ranked 1 to Count/ },
  { slug: 'where-do-we-leave-the-corridor', offer: 'latest month', says: /Lights columns of the latest/ },
  {
    slug: 'what-changed-after-the-new-pier',
    offer: 'under the pointer',
    says: /Lights points under the pointer/,
  },
  { slug: 'one-route-among-forty', offer: 'top or bottom', says: /ranked 1 to Count/ },
  { slug: 'if-fares-rose', offer: 'labels each bar with', says: /Labels each mark with/ },
  { slug: 'what-sails-now', offer: 'at or above a limit', says: /at or above/ },
];

for (const [at, { slug, offer, says }] of paths.entries()) {
  // Each by one way, on one ground: together every way is gone.
  const way = at % 2 ? 'keyboard' : 'pointer';
  test.describe(`${slug}, an author by the ${way}`, () => {
    test.use({ colorScheme: way === 'pointer' ? 'light' : 'dark' });
    test('says something, changes a word, takes it back, publishes, and viewers see it', async ({
      page,
      request,
    }) => {
      const id = await ownBoard(request, slug);
      await page.goto(`/boards/${id}`);
      const desk = page.getByRole('region', { name: /Sentences/ });
      const line = page.getByRole('combobox', { name: 'Add a sentence to this chart' });
      const offers = page.getByRole('listbox', { name: 'Sentences' }).getByRole('option');
      await expect(page.getByRole('figure').first().locator('figcaption')).not.toBeEmpty();
      if (way === 'pointer') await line.click();
      else await line.focus();
      await page.keyboard.type(offer);
      if (way === 'pointer') await offers.first().click();
      else await page.keyboard.press('Enter');
      await expect(desk).toContainText(says);

      // A word is tried, and taken back as a whole.
      const order = desk.getByRole('button', { name: /^Order/ }).first();
      const before = await order.textContent();
      if (way === 'pointer') await order.click();
      else {
        await order.focus();
        await page.keyboard.press('Enter');
      }
      const choices = page.getByRole('dialog', { name: 'Order' }).getByRole('radio');
      if (way === 'pointer') await choices.last().click();
      else {
        await choices.last().focus();
        await page.keyboard.press('ArrowUp');
      }
      await page.keyboard.press('Escape');
      await expect(order).toHaveText(before!);

      // So is the sentence, and done again.
      if (way === 'pointer') await page.getByRole('button', { name: 'Undo', exact: true }).click();
      else await page.keyboard.press('ControlOrMeta+z');
      await expect(desk).not.toContainText(says);
      if (way === 'pointer') await page.getByRole('button', { name: 'Redo', exact: true }).click();
      else await page.keyboard.press('ControlOrMeta+Shift+z');
      await expect(desk).toContainText(says);
      await saved(page);
      expect(await seriousFindings(page)).toEqual([]);

      const publish = page.getByRole('button', { name: 'Publish', exact: true });
      if (way === 'pointer') await publish.click();
      else {
        await publish.focus();
        await page.keyboard.press('Enter');
      }
      const sure = page
        .getByRole('dialog', { name: 'What viewers see' })
        .getByRole('button', { name: 'Publish' });
      if (way === 'pointer') await sure.click();
      else {
        await sure.focus();
        await page.keyboard.press('Enter');
      }
      await expect(page.getByRole('button', { name: 'Published' })).toBeVisible();
      const { document } = await (await request.get(`/api/boards/${id}`)).json();
      const shown = await (await request.get(`/api/boards/${id}/shown`)).json();
      expect(shown.document).toEqual(document);
      await page.goto(`/show/${id}`);
      await expect(page.getByRole('figure').first().locator('figcaption')).not.toBeEmpty();
    });
  });
}
