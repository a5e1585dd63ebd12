import type { Page } from '@playwright/test';
import { expect, importCsv, keysIn, leverNamed, saved, seriousFindings, test } from './fixtures';

/** Four years of daily catches at six wharves by ninety boats: with holes, nulls, ties, negative figures and quotes. */
function catches(): string {
  const wharves = ['Nor "old" wharf', 'Sør', 'Ebb & flow', 'Myra 🦀', 'Tangen', 'Vik'];
  const rows: string[] = ['Landed,Wharf,Boat,Kilos,Price,Hour,Boat id'];
  let n = 0;
  for (let day = 0; day < 1460; day += 1 + (day % 3)) {
    const date = new Date(Date.UTC(2021, 0, 5 + day)).toISOString().slice(0, 10);
    const wharf = wharves[(day * 7) % wharves.length]!.replaceAll('"', '""');
    const kilos = day % 41 === 0 ? '' : String(((day * 37) % 200) - (day % 29 === 0 ? 60 : 0));
    n++;
    rows.push(
      `${date},"${wharf}",boat ${n % 90},${kilos},${(4 + (day % 13) / 4).toFixed(2)},${day % 24},${n}`,
    );
  }
  return `${rows.join('\n')}\n`;
}

const starter = (page: Page, id: string) => page.locator(`[data-starter="${id}"]`);

test('questions that a table can answer are shown with its own data, and one click answers one', async ({
  page,
  request,
}) => {
  test.setTimeout(240_000);
  const dataset = await importCsv(request, 'Catches', catches());
  const start = `/datasets/${dataset}/new-board`;
  await page.goto(start);
  const questions = page.locator('[data-starter] strong');
  await expect(questions).toHaveText([
    'Which wharf has the most kilos?',
    'Kilos by day, with limits to move',
    'Kilos by month, one year at a time',
    'Kilos by wharf, one year at a time',
    'One boat among 90',
    'The 20 largest of 90 boats',
    'Every wharf compared with one',
    'Where is the present hour?',
    'A plain chart',
  ]);
  await expect(starter(page, 'most').locator('[data-state="lit"]')).toHaveCount(3);
  expect(await seriousFindings(page)).toEqual([]);
  // By keyboard alone, as by a click.
  for (const id of [
    'most',
    'over-time',
    'one-year',
    'one-among',
    'first-few',
    'against-one',
    'chosen-in-title',
    'now',
  ]) {
    await page.goto(start);
    await starter(page, id).focus();
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(/\/boards\//);
    const chart = page.getByRole('figure');
    await expect(chart.locator('[data-key], canvas, path').first(), id).toBeAttached();
    await expect(page.locator('[data-part~="sentence"] [data-part~="problem"]'), id).toHaveCount(0);
    await expect(page.locator('[data-lever]').first(), id).toBeVisible();
    await saved(page);
  }
});

test('a board that was begun with answers on the show, and a second one has a name of its own', async ({
  page,
  request,
}) => {
  const dataset = await importCsv(request, 'More catches', catches());
  const begin = async () => {
    await page.goto(`/datasets/${dataset}/new-board`);
    await starter(page, 'one-year').click();
    await expect(page).toHaveURL(/\/boards\//);
    return page.url().split('/').at(-1)!.split('?')[0]!;
  };
  const first = await begin();
  const title = page.getByRole('textbox', { name: 'Title of the board' });
  const given = await title.inputValue();
  await saved(page);
  await begin();
  await expect(title).toHaveValue(/^Kilos by month, one year at a time \d+$/);
  await expect(title).not.toHaveValue(given);
  await page.goto(`/show/${first}`);
  const chart = page.getByRole('figure');
  // The twelve months of the last year, and none of another.
  await expect
    .poll(async () => (await keysIn(chart, 'lit')).map((key) => key.slice(0, 4)))
    .toEqual(Array(12).fill('2024'));
  await leverNamed(page, 'Year of landed').getByRole('option', { name: /2022/ }).click();
  await expect.poll(() => keysIn(chart, 'lit')).toHaveLength(24);
});
