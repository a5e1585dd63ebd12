import type { Locator, Page } from '@playwright/test';
import { allKeys, expect, keysIn, leverNamed, leverTab, mark, saved, test, undrawn, word } from './fixtures';

/** What is lit in a chart: the keys of its marks, the names of its lines. */
const litIn = (chart: Locator): Promise<string[]> =>
  chart
    .locator('[data-state="lit"]')
    .evaluateAll((all) => [
      ...new Set(
        all.flatMap((each) => each.getAttribute('data-key') ?? each.getAttribute('data-series') ?? []),
      ),
    ]);

/** What a control is called. */
const nameOf = (target: Locator): Promise<string> =>
  target.evaluate((element) =>
    (element.getAttribute('aria-label') ?? element.textContent ?? '').trim().replace(/\s+/g, ' '),
  );

/**
 * What an author does, by the keyboard alone, counted twice: in acts (a thing pressed, a text typed, a choice, a file
 * dropped are one each) and in presses of keys, besides those that write a text.
 */
class Hands {
  acts = 0;
  presses = 0;
  constructor(readonly page: Page) {}

  async press(key: string) {
    this.presses++;
    await this.page.keyboard.press(key);
  }
  /** Goes on from where the focus is, by one key, until a target has it. */
  private async reach(target: Locator, key: string, most: number) {
    const has = () => target.evaluate((element) => element === document.activeElement);
    for (let n = 0; n <= most; n++) {
      if (await has()) return;
      await this.press(key);
    }
    throw new Error(`${await nameOf(target)} is not reached by ${most} times ${key}`);
  }
  /** Calls for a command by its words. */
  private async command(words: string) {
    await this.press('Control+k');
    const line = this.page.getByRole('combobox', { name: 'Search commands' });
    await expect(line).toBeFocused();
    await this.page.keyboard.insertText(words);
    await expect(
      this.page.getByRole('listbox', { name: 'Commands' }).getByRole('option').first(),
    ).toBeVisible();
    await this.press('Enter');
    await expect(line).toHaveCount(0);
  }
  /** Presses a button: of what is open by going to it, of the bench by its words, elsewhere by Tab. */
  async click(target: Locator) {
    this.acts++;
    await target.first().waitFor();
    const open = await target.evaluate((element) => element.closest('[role="dialog"]') !== null);
    if (open || !this.page.url().includes('/boards/')) {
      await this.reach(target, 'Tab', 20);
      await this.press('Enter');
      return;
    }
    const isWord = await target.evaluate((element) => (element as HTMLElement).dataset.slot !== undefined);
    await this.command(`${isWord ? 'Change ' : ''}${await nameOf(target)}`);
  }
  /** Writes over what stands in a field. */
  async type(target: Locator, text: string) {
    this.acts++;
    await this.reach(target, 'Tab', 8);
    if ((await target.getAttribute('type')) === 'date') {
      // A field for dates takes month, day and year one after the other.
      const [year, month, day] = text.split('-');
      await this.page.keyboard.type(`${month}${day}${year}`);
      return;
    }
    await this.press('Control+a');
    await this.page.keyboard.type(text);
  }
  /** Takes one of a list that opens, by the first letters of its name. */
  async select(target: Locator, value: string) {
    this.acts++;
    await this.reach(target, 'Tab', 12);
    await this.page.keyboard.type(value);
    await expect(target).toHaveValue(value);
  }
  /** Picks a mark of a chart. */
  async pick(chart: Locator, key: string) {
    this.acts++;
    const title = await chart.getByRole('heading').textContent();
    await this.command(`Select chart: ${title}`);
    await expect(chart.getByRole('listbox')).toBeFocused();
    // The nearer end first.
    const keys = await allKeys(chart);
    const at = keys.indexOf(key);
    const back = at > keys.length / 2;
    await this.press(back ? 'End' : 'Home');
    for (let n = back ? keys.length - 1 : 0; n !== at; n += back ? -1 : 1)
      await this.press(back ? 'ArrowUp' : 'ArrowDown');
    await this.press(' ');
  }
  /** From a dropped file to a board that begins with a question. */
  async begin(name: string, rows: string[], starter: string): Promise<Locator> {
    const { page } = this;
    await page.goto('/');
    this.acts++;
    const files = page.getByLabel('Data or board file');
    await files.setInputFiles({
      name: `${name}.csv`,
      mimeType: 'text/csv',
      buffer: Buffer.from(`${rows.join('\n')}\n`),
    });
    await files.focus();
    const card = page.getByRole('region', { name: `Import of ${name}.csv` });
    await this.click(card.getByRole('link', { name: 'New board from this' }));
    await this.click(page.locator(`[data-starter="${starter}"]`));
    await expect(page).toHaveURL(/\/boards\//);
    const chart = page.getByRole('figure').first();
    await expect(chart.locator('[data-key], [data-part~="strand"], canvas').first()).toBeAttached();
    return chart;
  }
  /** Says one more sentence of the chart in hand. */
  async say(words: string) {
    this.acts += 2;
    await this.command(`Add sentence: ${words}`);
  }
  /** Changes a word of a sentence to one of a list. */
  async change(name: string | RegExp, to: string | RegExp) {
    await this.click(word(this.page, name));
    this.acts++;
    const dialog = this.page.getByRole('dialog');
    const wanted = dialog.getByRole('radio', { name: to });
    await this.reach(dialog.getByRole('radio', { checked: true }), 'Tab', 4);
    await this.reach(wanted, 'ArrowDown', 12);
    await this.press('Enter');
  }
  /** Publishes, and looks at what viewers get. Nothing in this may take more than twelve acts, or forty presses. */
  async show({ moved = false } = {}): Promise<Locator> {
    const { page } = this;
    await saved(page);
    const onBench = await litIn(page.getByRole('figure').first());
    await this.click(page.getByRole('button', { name: 'Publish', exact: true }));
    await this.click(
      page.getByRole('dialog', { name: 'What viewers see' }).getByRole('button', { name: 'Publish' }),
    );
    await expect(page.getByRole('button', { name: 'Published' })).toBeVisible();
    expect(this.acts).toBeLessThanOrEqual(12);
    expect(this.presses).toBeLessThanOrEqual(40);
    const problems = page.locator('[data-part~="sentence"] [data-part~="problem"]');
    await expect(problems).toHaveCount(0);
    await page.goto(page.url().replace(/\/boards\/([^/?#]+).*/, '/show/$1'));
    const chart = page.getByRole('figure').first();
    await expect(chart.locator('[data-key], [data-part~="strand"], canvas').first()).toBeAttached();
    // What the author saw lit is lit for viewers, unless levers were moved away from where they start.
    if (!moved) await expect.poll(() => litIn(chart)).toEqual(onBench);
    return chart;
  }
}

/** The same show on a phone, by touch alone, held to what a finger can do: `lever` opens one in the sheet. */
interface Phone {
  page: Page;
  chart: Locator;
  lever(name: string): Promise<Locator>;
  /** A finger goes from one place to another; where it begins on marks it rests there first. */
  drag(from: [number, number], to: [number, number], rests?: boolean): Promise<void>;
}

async function onPhone(show: Page, run: (phone: Phone) => Promise<void>): Promise<void> {
  const context = await show
    .context()
    .browser()!
    .newContext({
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      isMobile: true,
    });
  try {
    await undrawn(context);
    const page = await context.newPage();
    await page.goto(show.url().replace(/\?.*/, ''));
    const chart = page.getByRole('figure').first();
    await expect(chart.locator('[data-key], [data-part~="strand"], canvas').first()).toBeAttached();
    await expect(chart.getByRole('button', { name: /^More for/ })).toBeVisible();
    const session = await context.newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...at: { x: number; y: number }[]) =>
      session.send('Input.dispatchTouchEvent', { type, touchPoints: at });
    await run({
      page,
      chart,
      async lever(name) {
        const tab = leverTab(page, name);
        if ((await tab.getAttribute('aria-expanded')) !== 'true') await tab.tap();
        const lever = leverNamed(page, name);
        await expect(lever).toBeInViewport({ ratio: 0.4 });
        return lever;
      },
      async drag([x, y], [toX, toY], rests = false) {
        await touch('touchStart', { x, y });
        if (rests) await page.waitForTimeout(500);
        for (let step = 1; step <= 5; step++)
          await touch('touchMove', { x: x + ((toX - x) * step) / 5, y: y + ((toY - y) * step) / 5 });
        await touch('touchEnd');
      },
    });
  } finally {
    await context.close();
  }
}

/** The middle of a part of a page, px. */
const middleOf = async (part: Locator): Promise<[number, number]> => {
  const { x, y, width, height } = (await part.boundingBox())!;
  return [x + width / 2, y + height / 2];
};

const dayAfter = (from: string, days: number) =>
  new Date(Date.parse(from) + days * 86_400_000).toISOString().slice(0, 10);
const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
const stalls = [
  'North "end"',
  'Øst',
  'Bread & salt',
  'Crab 🦀',
  "Mo's",
  'Vik',
  'Lamp, oil',
  'Rope',
  'Tar',
  'Zink',
  'Ash',
];

/** Two years of takings at eleven stalls: holes, ties, refunds, quotes, an emoji. */
function takings(): string[] {
  const rows = ['Sold on,Stall,Hall,Takings,Unit price'];
  for (let i = 0; i < 1400; i++) {
    if (i % 19 === 0) continue;
    const amount = i % 31 === 0 ? '' : String(((i * 37) % 240) - (i % 23 === 0 ? 120 : 0));
    const hall = ['East', 'West', 'Yard'][i % 3];
    rows.push(
      `${dayAfter('2023-02-03', Math.floor(i / 2))},${quoted(stalls[(i * 5) % 11]!)},${hall},${amount},${(3 + (i % 17) / 4).toFixed(2)}`,
    );
  }
  return rows;
}

/** Readings of one gauge on most days of three years, some below zero. */
function gauge(): string[] {
  const rows = ['Day,Depth'];
  for (let day = 0; day < 1095; day++)
    if (day % 13 && !(day > 400 && day < 420))
      rows.push(
        `${dayAfter('2021-05-01', day)},${(80 + 60 * Math.sin(day / 50) - (day % 7) * 12).toFixed(1)}`,
      );
  return rows;
}

/** Forty crews by month, each with months of its own missing. */
function crews(): string[] {
  const rows = ['Month,Crew,Trips'];
  for (let crew = 0; crew < 40; crew++)
    for (let month = 0; month < 30; month++)
      if ((crew + month) % 11)
        rows.push(
          `${new Date(Date.UTC(2021, month, 1)).toISOString().slice(0, 10)},crew ${crew},${200 + crew * 9 + ((crew * month * 7) % 90)}`,
        );
  return rows;
}

/** Five gates by month. */
function gates(): string[] {
  const rows = ['Month,Gate,Passes'];
  for (const [g, gate] of ['Upper', 'Lower', 'Sea', 'Garden', 'Old'].entries())
    for (let month = 0; month < 24; month++)
      rows.push(
        `${new Date(Date.UTC(2022, month, 1)).toISOString().slice(0, 10)},${gate},${90 + g * 40 + ((month * 13 * (g + 1)) % 70)}`,
      );
  return rows;
}

/** Knocks by hour, minute and second. */
function knocks(): string[] {
  const rows = ['Hour,Minute,Second,Knocks'];
  for (let i = 0; i < 4000; i++) rows.push(`${i % 24},${(i * 7) % 60},${(i * 11) % 60},${1 + (i % 5)}`);
  return rows;
}

const bar = (chart: Locator, key: string) => mark(chart, key).locator('rect').first();
const inside = { x: 4, y: 5 };
const strands = (chart: Locator, state: string) =>
  chart.locator(`[data-part~="strand"][data-state="${state}"]`);

test.setTimeout(90_000);
// They are long, and know nothing of each other: both workers take them.
test.describe.configure({ mode: 'parallel' });

test('1 bars are lit by what is picked, in a list, on the chart, across it; nothing picked is plain', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Takings 1', takings(), 'plain');
  await hands.say('Lights picked bars');
  const chart = await hands.show();
  const order = await allKeys(chart);
  expect(await keysIn(chart, 'plain')).toEqual(order);
  const lever = leverNamed(page, 'Stall');
  await lever.getByRole('option', { name: /Crab/ }).click();
  expect(await keysIn(chart, 'lit')).toEqual(['Crab 🦀']);
  const from = (await bar(chart, order[1]!).boundingBox())!;
  const to = (await bar(chart, order[3]!).boundingBox())!;
  await page.mouse.move(from.x + 4, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(to.x + 4, to.y + 5, { steps: 5 });
  await page.mouse.up();
  expect(await keysIn(chart, 'lit')).toEqual(order.slice(1, 4));
  await lever.getByRole('button', { name: 'none' }).click();
  expect(await keysIn(chart, 'plain')).toEqual(order);

  await onPhone(page, async ({ chart: plot, lever: open, drag }) => {
    await (await open('Stall')).getByRole('option', { name: /Crab/ }).tap();
    await expect.poll(() => keysIn(plot, 'lit')).toEqual(['Crab 🦀']);
    await bar(plot, order[0]!).tap({ position: inside });
    await expect.poll(() => keysIn(plot, 'lit')).toEqual([order[0]]);
    const [from, to] = [await middleOf(bar(plot, order[0]!)), await middleOf(bar(plot, order[2]!))];
    await drag([from[0], from[1]], [from[0], to[1]], true);
    await expect.poll(() => keysIn(plot, 'lit')).toEqual(order.slice(0, 3));
  });
});

const markers = (chart: Locator, state = 'lit') =>
  chart.locator(`[data-part~="marker"][data-state="${state}"]`);
const pieces = (chart: Locator) => chart.locator('[data-part~="piece"]');
const looksOf = async (marks: Locator) =>
  [...new Set(await marks.evaluateAll((all) => all.map((each) => each.getAttribute('data-look'))))].sort();

test('2 limits are typed, drawn and dragged; what is above and below looks different', async ({ page }) => {
  const hands = new Hands(page);
  await hands.begin('Gauge 2', gauge(), 'over-time');
  const chart = await hands.show();
  const typed = leverNamed(page, 'Limits').getByRole('textbox').last();
  await typed.fill('101.25');
  await typed.press('Enter');
  await expect(typed).toHaveValue('101.25');
  await expect(chart.locator('[data-part~="guide"]', { hasText: '101.25' })).toBeAttached();
  expect(await looksOf(pieces(chart))).toHaveLength(2);
  const handle = chart.getByRole('slider', { name: /lower limit/ });
  const before = Number(await handle.getAttribute('aria-valuenow'));
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + 90, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 90, box.y - 30, { steps: 4 });
  await page.mouse.up();
  expect(Number(await handle.getAttribute('aria-valuenow'))).toBeGreaterThan(before);

  await onPhone(page, async ({ chart: plot, lever: open, drag }) => {
    const box = (await open('Limits')).getByRole('textbox').last();
    await box.fill('101.25');
    await box.press('Enter');
    await expect(plot.locator('[data-part~="guide"]', { hasText: '101.25' })).toBeAttached();
    const line = plot.getByRole('slider', { name: /upper limit/ });
    // A finger takes hold of it by its end at the axis; the rest of the plot is to scroll by.
    const { x, y } = (await line.boundingBox())!;
    await drag([x + 8, y], [x + 8, y + 24]);
    await expect(line).not.toHaveAttribute('aria-valuenow', '101.25');
  });
});

test('3 the highest or lowest few are lit, as many as a slider says, in a year that is chosen', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Takings 3', takings(), 'most');
  await hands.say('Filters by picked years');
  const chart = await hands.show();
  const order = await allKeys(chart);
  expect(await keysIn(chart, 'lit')).toEqual(order.slice(0, 3));
  await leverNamed(page, 'Count').getByRole('slider').press('ArrowRight');
  expect(await keysIn(chart, 'lit')).toEqual(order.slice(0, 4));
  await page.getByRole('radio', { name: 'lowest' }).click();
  expect(await keysIn(chart, 'lit')).toEqual(order.slice(-4));
  await leverNamed(page, 'Year of sold on').getByRole('option', { name: /2024/ }).click();
  await expect(chart.locator('figcaption')).toContainText('Only rows of 2024.');

  await onPhone(page, async ({ page: phone, chart: plot, lever: open }) => {
    const count = (await open('Count')).getByRole('textbox');
    await count.fill('2');
    await count.press('Enter');
    await expect.poll(() => keysIn(plot, 'lit')).toEqual(order.slice(0, 2));
    await open('Side');
    await phone.getByRole('radio', { name: 'lowest' }).tap();
    await expect.poll(() => keysIn(plot, 'lit')).toEqual(order.slice(-2));
    await (await open('Year of sold on')).getByRole('option', { name: /2024/ }).tap();
    await expect(plot.locator('figcaption')).toContainText('Only rows of 2024.');
  });
});

test('4 a filter becomes lighting, and back', async ({ page }) => {
  const hands = new Hands(page);
  const chart = await hands.begin('Takings 4', takings(), 'plain');
  const all = (await allKeys(chart)).length;
  await hands.say('Filters by picked stalls');
  await leverNamed(page, 'Stall').getByRole('option', { name: /Rope/ }).click();
  await expect.poll(() => allKeys(chart)).toEqual(['Rope']);
  await hands.change('What it does: Filters to', 'Lights');
  await expect.poll(async () => (await allKeys(chart)).length).toBe(all);
  expect(await keysIn(chart, 'lit')).toEqual(['Rope']);
  await hands.change('What it does: Lights', /^Filters to/);
  await expect.poll(() => allKeys(chart)).toEqual(['Rope']);
  const shown = await hands.show({ moved: true });
  await expect.poll(async () => (await allKeys(shown)).length).toBe(all);

  await onPhone(page, async ({ chart: plot, lever: open }) => {
    await (await open('Stall')).getByRole('option', { name: /Vik/ }).tap();
    await expect.poll(() => allKeys(plot)).toEqual(['Vik']);
  });
});

test('5 the press itself lights, hovering undoes nothing; pointing at a name lights its line', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Gates 5', gates(), 'one-among');
  await hands.say('Lights each picked gate');
  await page.getByRole('figure').first().locator('[data-part~="name"]').first().waitFor();
  const chart = await hands.show();
  const lit = () =>
    strands(chart, 'lit').evaluateAll((all) => all.map((each) => each.getAttribute('data-series')).sort());
  const name = (gate: string) => chart.locator('[data-part~="name"]', { hasText: gate });
  const first = await lit();
  await name('Sea').hover();
  await expect.poll(lit).toEqual([...new Set([...first, 'Sea'])].sort());
  await page.mouse.move(5, 5);
  await expect.poll(lit).toEqual(first);
  const box = (await name('Upper').boundingBox())!;
  await page.mouse.move(box.x + 3, box.y + 3);
  await page.mouse.down();
  expect(await lit()).toContain('Upper');
  await page.mouse.up();
  await name('Old').hover();
  await page.mouse.move(5, 5);
  expect(await lit()).toContain('Upper');

  await onPhone(page, async ({ chart: plot }) => {
    await plot.locator('[data-part~="name"]', { hasText: 'Garden' }).tap();
    await expect
      .poll(() =>
        strands(plot, 'lit').evaluateAll((all) => all.map((each) => each.getAttribute('data-series'))),
      )
      .toContain('Garden');
  });
});

test('6 a window of a year is moved over years of daily rows', async ({ page }) => {
  const hands = new Hands(page);
  await hands.begin('Gauge 6', gauge(), 'over-time');
  await hands.say('Shows some days at a time');
  const chart = await hands.show();
  const lever = leverNamed(page, 'Day in view');
  await expect(lever).toContainText('365 of');
  const first = await chart.locator('[data-part~="category"]').first().textContent();
  await lever.getByRole('scrollbar').press('Home');
  await expect(chart.locator('[data-part~="category"]').first()).not.toHaveText(first!);
  await expect(lever).toContainText('2 May 2021');

  await onPhone(page, async ({ chart: plot, lever: open, drag }) => {
    const window = await open('Day in view');
    const name = plot.locator('[data-part~="category"]').first();
    const [grip, before] = [window.locator('[data-grip]'), await name.textContent()];
    const [x, y] = await middleOf(grip);
    await drag([x, y], [x - 120, y]);
    await expect(name).not.toHaveText(before!);
  });
});

test('7 forty lines are muted at once, one is lit, with markers', async ({ page }) => {
  const hands = new Hands(page);
  await hands.begin('Crews 7', crews(), 'one-among');
  await hands.click(word(page, /^Look: /).first());
  await hands.select(page.getByRole('dialog').getByLabel('Marker', { exact: true }), 'diamond');
  await hands.press('Enter');
  const chart = await hands.show();
  await expect(strands(chart, 'muted')).toHaveCount(39);
  await expect(strands(chart, 'lit')).toHaveCount(1);
  expect(await markers(chart).count()).toBeGreaterThan(10);

  await onPhone(page, async ({ page: phone, chart: plot, lever: open }) => {
    await expect(strands(plot, 'muted')).toHaveCount(39);
    await (await open('Crew')).getByRole('button').first().tap();
    await phone.getByRole('option', { name: 'crew 7', exact: true }).tap();
    await expect(strands(plot, 'lit')).toHaveAttribute('data-series', 'crew 7');
  });
});

test('8 two events are named and drawn, and the three stretches have looks of their own', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Gauge 8', gauge(), 'one-year');
  await hands.say('Lights the periods around two events');
  await hands.click(word(page, 'Events: 2 events').first());
  const editor = page.getByRole('dialog', { name: 'Events' });
  await hands.type(editor.getByRole('textbox', { name: 'Name of event 1' }), 'the dredging');
  await hands.type(editor.getByLabel('Date of the dredging'), '2022-03-15');
  await hands.type(editor.getByRole('textbox', { name: 'Name of event 2' }), 'the "new" weir');
  await hands.type(editor.getByLabel('Date of the "new" weir'), '2023-06-01');
  await hands.press('Enter');
  const chart = await hands.show();
  await expect(chart.locator('text[data-part~="event"]')).toHaveText(['the dredging', 'the "new" weir']);
  await leverNamed(page, 'Year').getByRole('option', { selected: true }).click();
  expect(await looksOf(chart.locator('[data-part~="mark"][data-state="lit"]'))).toHaveLength(3);

  await onPhone(page, async ({ chart: plot, lever: open }) => {
    await (await open('Year')).getByRole('option', { selected: true }).tap();
    await expect.poll(() => looksOf(plot.locator('[data-part~="mark"][data-state="lit"]'))).toHaveLength(3);
  });
});

test('9 the bars of the current second, minute and hour are lit', async ({ page }) => {
  await page.clock.install({ time: new Date('2026-03-05T08:10:30Z') });
  const hands = new Hands(page);
  await hands.begin('Knocks 9', knocks(), 'now');
  for (const unit of ['Minute', 'Second']) {
    await hands.click(page.getByRole('group', { name: /^Fields of/ }).getByRole('button', { name: unit }));
    await hands.say(`of the current ${unit.toLowerCase()}`);
  }
  await hands.show();
  const now = async () => Promise.all([0, 1, 2].map((i) => keysIn(page.getByRole('figure').nth(i), 'lit')));
  await page.clock.pauseAt(new Date('2026-03-05T09:19:58.5Z'));
  const [hour] = (await now())[0]!;
  await expect.poll(now).toEqual([[hour], ['19'], ['58']]);
  await page.clock.runFor(2000);
  await expect.poll(now).toEqual([[hour], ['20'], ['0']]);
});

test('10 all others are compared with the bar that is touched, from zero on both sides; and off again', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Takings 10', takings(), 'against-one');
  const chart = await hands.show();
  const order = await allKeys(chart);
  await bar(chart, order[4]!).click({ position: inside });
  await expect(chart.locator('figcaption')).toContainText(order[4]!);
  expect((await looksOf(chart.locator('[data-key]'))).length).toBeGreaterThanOrEqual(2);
  await leverNamed(page, 'Compared with')
    .getByRole('button', { name: /^Compared with:/ })
    .click();
  await page.getByRole('option', { name: 'nothing' }).click();
  await expect.poll(() => keysIn(chart, 'plain')).toHaveLength(11);

  await onPhone(page, async ({ page: phone, chart: plot, lever: open }) => {
    await bar(plot, order[1]!).tap({ position: inside });
    await expect(plot.locator('figcaption')).toContainText(order[1]!);
    await (await open('Compared with')).getByRole('button', { name: /^Compared with:/ }).tap();
    await phone.getByRole('option', { name: 'nothing' }).tap();
    await expect.poll(() => keysIn(plot, 'plain')).toHaveLength(11);
  });
});

test('11 a choice in the title changes what is shown; each bar has its own colour and is labelled', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Takings 11', takings(), 'chosen-in-title');
  const chart = await hands.show();
  expect(await looksOf(chart.locator('[data-key]'))).toHaveLength(11);
  const labels = chart.locator('text[data-part~="value"]');
  await expect(labels).toHaveCount(11);
  const before = await labels.allTextContents();
  await chart.getByRole('button', { name: 'Hall: East' }).click();
  await page.getByRole('option', { name: 'Yard' }).click();
  await expect(chart).toHaveAccessibleName(/^Takings by stall: .*Yard$/);
  await expect.poll(() => labels.allTextContents()).not.toEqual(before);

  await onPhone(page, async ({ page: phone, chart: plot }) => {
    await plot.getByRole('button', { name: 'Hall: East' }).tap();
    await phone.getByRole('option', { name: 'West' }).tap();
    await expect(plot).toHaveAccessibleName(/West$/);
  });
});

test('12 the last period is lit: of all data, of what is shown, the last business day', async ({ page }) => {
  const hands = new Hands(page);
  await hands.begin('Takings 12', takings(), 'over-time');
  await hands.say('Lights the point of the latest day');
  await hands.say('Shows some days at a time');
  await hands.change(/^Latest of/, /^period in view/);
  const chart = await hands.show();
  const last = async () => (await chart.locator('figcaption').textContent())!;
  const before = await last();
  await leverNamed(page, 'Sold on in view').getByRole('scrollbar').press('Home');
  await expect.poll(last).not.toBe(before);

  await onPhone(page, async ({ chart: plot, lever: open }) => {
    const told = await plot.locator('figcaption').textContent();
    await (await open('Sold on in view')).getByRole('button', { name: /back$/ }).tap();
    await expect(plot.locator('figcaption')).not.toHaveText(told!);
  });
});

test('13 a range of dates lights a stretch of a monthly line', async ({ page }) => {
  const hands = new Hands(page);
  await hands.begin('Crews 13', crews(), 'one-year');
  await hands.change('Form: columns', /^lines/);
  await hands.say('Lights the points in a range of month');
  const chart = await hands.show();
  await leverNamed(page, 'Year').getByRole('option', { selected: true }).click();
  const lever = leverNamed(page, 'Month from – to');
  for (const [end, day] of [
    ['from', '2021-06-01'],
    ['to', '2022-02-28'],
  ]) {
    const box = lever.getByRole('textbox', { name: `Month from – to, ${end}, typed` });
    await box.fill(day!);
    await box.press('Enter');
  }
  await expect(chart.locator('figcaption')).toContainText('9 of 30 months');

  await onPhone(page, async ({ chart: plot, lever: open }) => {
    await (await open('Year')).getByRole('option', { selected: true }).tap();
    await (await open('Month from – to')).getByRole('button', { name: 'last 12 months' }).tap();
    await expect(plot.locator('figcaption')).toContainText('12 of 30 months');
  });
});

test('14 one of several series is shown in its own colour, the others as ghosts', async ({ page }) => {
  const hands = new Hands(page);
  await hands.begin('Gates 14', gates(), 'one-among');
  const chart = await hands.show();
  const look = async () => (await strands(chart, 'lit').getAttribute('data-look'))!.split(' ')[0];
  const first = await look();
  await leverNamed(page, 'Gate').getByRole('button').first().click();
  await page.getByRole('option', { name: 'Upper' }).click();
  await expect(strands(chart, 'lit')).toHaveAttribute('data-series', 'Upper');
  expect(await look()).not.toBe(first);
  await expect(strands(chart, 'muted')).toHaveCount(4);

  await onPhone(page, async ({ page: phone, chart: plot, lever: open }) => {
    await (await open('Gate')).getByRole('button').first().tap();
    await phone.getByRole('option', { name: 'Garden' }).tap();
    await expect(strands(plot, 'lit')).toHaveAttribute('data-series', 'Garden');
  });
});

test('15 low and high are shares of the range: dots, lines and band agree, enlarged too', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Takings 15', takings(), 'plain');
  await hands.change('Form: bars', /^dots/);
  await hands.say('Lights the dots above and below two shares');
  await hands.say('Draws a band between its limits');
  const chart = await hands.show();
  const agree = async (where: Locator) => {
    const { lines, band, above, below } = await where.evaluate((figure) => {
      const ends = (part: string) =>
        [...figure.querySelectorAll(part)]
          .map((each) => each.getBoundingClientRect())
          .map(({ top, bottom }) => [top, bottom] as const);
      const at = (look: string) =>
        ends(`[data-key][data-state="lit"][data-look~="${look}"]`).map(([from, to]) => (from + to) / 2);
      return {
        lines: ends('line[data-part~="guide"]')
          .map(([from]) => from)
          .sort((a, b) => a - b),
        band: ends('[data-part~="area"]')[0]!,
        above: at('ember'),
        below: at('kelp'),
      };
    });
    expect(Math.abs(band[0] - lines[0]!)).toBeLessThan(1.5);
    expect(Math.abs(band[1] - lines[1]!)).toBeLessThan(1.5);
    expect(above.length).toBeGreaterThan(0);
    expect(Math.max(...above)).toBeLessThanOrEqual(lines[0]! + 1);
    expect(below.length).toBeGreaterThan(0);
    expect(Math.min(...below)).toBeGreaterThan(lines[1]! - 1);
  };
  await agree(chart);
  const plot = chart.locator('[data-part~="plot"] svg');
  const before = (await plot.boundingBox())!.width;
  await page.getByRole('button', { name: /^Enlarge/ }).click();
  await expect.poll(async () => (await plot.boundingBox())!.width).not.toBe(before);
  await agree(chart);

  await onPhone(page, async ({ page: phone, chart: plot, lever: open }) => {
    const limit = (await open('Limits in %')).getByRole('textbox').first();
    await limit.fill('40%');
    await limit.press('Enter');
    await agree(plot);
    await plot.getByRole('button', { name: /^More for/ }).tap();
    await phone.getByRole('button', { name: 'Enlarge' }).tap();
    await agree(plot);
  });
});

test('16 a rate is changed by a slider: now beside then, only the five largest, chart and table together', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Takings 16', takings(), 'plain');
  await hands.say('Shows values with a change applied');
  await hands.say('Keeps only the top or bottom N stalls');
  await hands.say('Shows the same values in a table');
  const chart = await hands.show();
  const table = page.getByRole('figure').nth(1);
  await expect.poll(async () => new Set(await allKeys(chart)).size).toBe(5);
  await expect.poll(async () => new Set(await allKeys(table)).size).toBe(5);
  const written = () => table.locator('text').allTextContents();
  const before = await written();
  await leverNamed(page, 'Change').getByRole('slider').press('PageUp');
  await expect.poll(written).not.toEqual(before);

  await onPhone(page, async ({ chart: plot, lever: open, drag }) => {
    const slider = (await open('Change')).getByRole('slider');
    const told = await plot.locator('svg text').allTextContents();
    const [x, y] = await middleOf(slider);
    await drag([x, y], [x + 60, y]);
    await expect.poll(() => plot.locator('svg text').allTextContents()).not.toEqual(told);
  });
});

test('17 the line under the pointer is heavier and coloured, the rest are thin; on dark ground', async ({
  page,
}) => {
  const hands = new Hands(page);
  await hands.begin('Crews 17', crews(), 'one-among');
  await hands.click(page.getByRole('button', { name: 'More' }));
  await hands.select(page.getByLabel('Theme for viewers'), 'dark');
  const chart = await hands.show();
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
  const name = await strands(chart, 'muted').first().getAttribute('data-series');
  expect(name).toBeTruthy();
  const box = (await chart.locator('[data-part~="plot"] svg').boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height * 0.6);
  await expect(strands(chart, 'lit')).toHaveCount(2);
  const width = (state: string) =>
    strands(chart, state)
      .first()
      .locator('[data-part~="stroke"]')
      .first()
      .evaluate((line) => Number.parseFloat(getComputedStyle(line).strokeWidth));
  expect(await width('lit')).toBeGreaterThan(1.5 * (await width('muted')));

  await onPhone(page, async ({ page: phone, chart: plot }) => {
    const { x, y, width, height } = (await plot.locator('[data-part~="plot"] svg').boundingBox())!;
    await phone.touchscreen.tap(x + width / 2, y + height * 0.6);
    // A finger that taps points.
    await expect(strands(plot, 'lit')).toHaveCount(2);
  });
});

test('18 a click sets a lever, clearing keeps it, and a story is told with moments', async ({ page }) => {
  const hands = new Hands(page);
  const chart = await hands.begin('Takings 18', takings(), 'most');
  await hands.change(/^When cleared/, /^keep/);
  const order = await allKeys(chart);
  await hands.pick(chart, order[3]!);
  await hands.click(page.getByRole('button', { name: '+ moment' }));
  await hands.pick(chart, order[4]!);
  await hands.click(page.getByRole('button', { name: '+ moment' }));
  const shown = await hands.show({ moved: true });
  await page.getByRole('button', { name: 'First moment' }).click();
  await expect.poll(() => keysIn(shown, 'lit')).toContain(order[3]);
  const ground = (await shown.getByRole('listbox').boundingBox())!;
  await page.mouse.click(ground.x + ground.width - 6, ground.y + ground.height - 30);
  await expect.poll(() => keysIn(shown, 'lit')).toContain(order[3]);
  await page.getByRole('button', { name: 'Next moment' }).click();
  await expect.poll(() => keysIn(shown, 'lit')).toContain(order[4]);

  await onPhone(page, async ({ page: phone, chart: plot }) => {
    await phone.getByRole('button', { name: 'First moment' }).tap();
    await expect.poll(() => keysIn(plot, 'lit')).toContain(order[3]);
    await bar(plot, order[1]!).tap({ position: inside });
    await expect.poll(() => keysIn(plot, 'lit')).not.toContain(order[3]);
    await phone.getByRole('button', { name: 'Back to this moment' }).tap();
    await expect.poll(() => keysIn(plot, 'lit')).toContain(order[3]);
  });
});

test('19 bars are filled up to the whole, muted; only lit parts have labels', async ({ page }) => {
  const hands = new Hands(page);
  await hands.begin('Takings 19', takings(), 'most');
  await hands.say('Extends each bar to the total');
  await hands.say('Labels lit bars only with their value');
  const chart = await hands.show();
  await expect(chart.locator('[data-part~="rest"]')).toHaveCount(11);
  await expect(chart.locator('text[data-part~="value"]').filter({ visible: true })).toHaveCount(3);

  await onPhone(page, async ({ chart: plot }) => {
    await expect(plot.locator('[data-part~="rest"]')).toHaveCount(11);
    await expect(plot.locator('text[data-part~="value"]').filter({ visible: true })).toHaveCount(3);
  });
});
