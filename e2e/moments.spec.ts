import { chartNamed, expect, keysIn, leverNamed, ownBoard, saved, seriousFindings, test } from './fixtures';

test('moments are stepped through on the show, by buttons and by the keys of a presenter', async ({
  page,
}) => {
  await page.goto('/show/which-routes-carry-the-sound');
  const bar = page.getByRole('region', { name: 'Moments' });
  const chart = chartNamed(page, 'Passengers by route');
  await expect(bar).toContainText('3 moments');
  await bar.getByRole('button', { name: 'First moment' }).click();
  await expect(bar).toContainText('1 of 3 Two routes carry four in ten passengers');
  await expect.poll(() => keysIn(chart, 'lit')).toEqual(['Quel – Ostrin', 'Harl – Vemmen']);
  await expect(page).toHaveURL(/top=2/);
  await page.keyboard.press('PageDown');
  await expect(bar).toContainText('2 of 3');
  await expect.poll(async () => (await keysIn(chart, 'lit')).length).toBe(4);
  // A lever that is moved leaves the moment, and one press leads back.
  await leverNamed(page, 'Counted from').getByText('highest').click();
  await bar.getByRole('button', { name: 'Back to this moment' }).click();
  await expect(leverNamed(page, 'Counted from').getByRole('radio', { name: 'lowest' })).toBeChecked();
  await expect(bar.getByRole('button', { name: 'Back to this moment' })).toHaveCount(0);
  // Each step is one of the browser's; the address says where it stands.
  await expect(page).toHaveURL(/end=lowest/);
  await page.reload();
  await expect(bar).toContainText('2 of 3');
  await page.keyboard.press('PageUp');
  await expect(bar).toContainText('1 of 3');
  expect(await seriousFindings(page)).toEqual([]);
});

test('moments are kept, named, put in order and removed on the bench', async ({ page, request }) => {
  const id = await ownBoard(request, 'who-leads-who-trails');
  await page.goto(`/boards/${id}`);
  const list = page.getByRole('region', { name: 'Moments' });
  await leverNamed(page, 'Count').getByRole('textbox').fill('5');
  await leverNamed(page, 'Count').getByRole('textbox').press('Enter');
  await list.getByRole('button', { name: '+ moment' }).click();
  // The button moves down as the first one comes.
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await leverNamed(page, 'Count').getByRole('textbox').fill('1');
  await leverNamed(page, 'Count').getByRole('textbox').press('Enter');
  await list.getByRole('button', { name: '+ moment' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(2);
  const first = list.getByRole('textbox', { name: 'Caption of the moment Count 5' });
  await first.fill('The five largest');
  await first.press('Enter');
  await list.getByRole('button', { name: 'Go to The five largest' }).click();
  await expect(leverNamed(page, 'Count').getByRole('slider')).toHaveAttribute('aria-valuenow', '5');
  await saved(page);
  await page.reload();
  await expect(list.getByRole('textbox', { name: 'Caption of the moment The five largest' })).toBeVisible();
  await list.getByRole('button', { name: 'Remove the moment The five largest' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(2);
  expect(await seriousFindings(page)).toEqual([]);
});
