import type { Page } from '@playwright/test';
import { demoBoards, expect, test } from './fixtures';

/** What is drawn of a chart: each text and each mark, where it stands and in which colour. */
interface Drawn {
  texts: { text: string; x: number; y: number; width: number; weight: string; fill: string }[];
  marks: { box: number[]; colours: string[] }[];
}

/** Reads a drawing as the browser has it, in its own units. Texts that are not seen are none of it. */
const drawnIn = (page: Page, chart: string, own: boolean) =>
  page.evaluate(
    ([id, isOwn]): Drawn => {
      const svg = document.querySelector<SVGSVGElement>(
        isOwn ? `figure[data-chart="${id}"] [data-part="plot"] > svg` : '#picture > svg > svg',
      )!;
      const { e: left, f: top } = svg.getScreenCTM()!;
      const ground = { x: left, y: top };
      const isSeen = (element: Element) => {
        for (let at: Element | null = element; at && at !== svg; at = at.parentElement) {
          const { display, visibility } = getComputedStyle(at);
          if (display === 'none' || visibility === 'hidden') return false;
        }
        return true;
      };
      const texts = [...svg.querySelectorAll('text')]
        .filter((text) => text.textContent && isSeen(text))
        .map((text) => {
          const box = text.getBoundingClientRect();
          const { fontWeight, fill } = getComputedStyle(text);
          return {
            text: text.textContent!,
            x: box.x - ground.x,
            y: box.y + box.height / 2 - ground.y,
            width: box.width,
            weight: fontWeight,
            fill,
          };
        });
      const marks = [
        ...svg.querySelectorAll(
          '[data-part="bar"], [data-part="dot"], [data-part~="stroke"], [data-part="marker"]',
        ),
      ]
        .filter(isSeen)
        .map((mark) => {
          const box = mark.getBoundingClientRect();
          const { fill, stroke } = getComputedStyle(mark);
          return {
            box: [box.x - ground.x, box.y - ground.y, box.width, box.height],
            colours: [fill, stroke],
          };
        });
      return { texts, marks };
    },
    [chart, own] as const,
  );

// Texts are as wide as their font says, as on screens that are sharp enough for that.
test.use({
  launchOptions: async ({ launchOptions }, use) =>
    use({ ...launchOptions, args: [...(launchOptions.args ?? []), '--font-render-hinting=none'] }),
});

/** Room for texts is in whole px: one that is a thousandth wider may get one more. */
const within = 1.05;
const isNear = (a: number, b: number) => Math.abs(a - b) < within;

const sizes = [
  { width: 1280, height: 800 },
  { width: 900, height: 700 },
  { width: 1800, height: 1000 },
];

for (const theme of ['light', 'dark'] as const)
  test(`pictures by address are what the page draws: ${theme}`, async ({ page, request }) => {
    test.slow();
    await page.emulateMedia({ reducedMotion: 'reduce' });
    await page.addInitScript((ground) => localStorage.setItem('sorvik-ground', ground), theme);
    // What sails now would be something else a second later.
    for (const board of demoBoards.filter((each) => each !== 'what-sails-now')) {
      await page.goto(`/show/${board}`);
      const { charts } = (await (await request.get(`/api/boards/${board}/shown`)).json()).document;
      await page.waitForFunction(
        (wanted) => performance.getEntriesByName('chart first paint').length >= wanted,
        charts.length,
      );
      for (const size of sizes) {
        await page.setViewportSize(size);
        // The rest of many marks follows in the frames after the first.
        await page.waitForTimeout(300);
        for (const { id } of charts) await compare(page, { board, chart: id, theme });
      }
    }
  });

/** Holds a chart that is shown against its picture of the same size. */
async function compare(page: Page, { board, chart, theme }: { board: string; chart: string; theme: string }) {
  const [width, height] = await page
    .locator(`figure[data-chart="${chart}"] [data-part="plot"]`)
    .evaluate((plot) => {
      const box = plot.getBoundingClientRect();
      return [Math.floor(box.width), Math.floor(box.height)];
    });
  const answer = await page.request.get(
    `/pictures/${board}/${chart}.svg?theme=${theme}&width=${width}&height=${height}`,
  );
  expect(answer.status(), await answer.text()).toBe(200);
  await page.evaluate(
    (text) => {
      document.querySelector('#picture')?.remove();
      const holder = document.createElement('div');
      holder.id = 'picture';
      holder.style.cssText = 'position:absolute;left:0;top:0;opacity:0;pointer-events:none';
      const parsed = new DOMParser().parseFromString(text, 'image/svg+xml');
      if (parsed.querySelector('parsererror')) throw new Error('The picture is no XML.');
      holder.append(document.importNode(parsed.documentElement, true));
      document.body.append(holder);
    },
    await answer.text(),
  );
  const [own, picture] = [await drawnIn(page, chart, true), await drawnIn(page, chart, false)];
  const where = `${board}/${chart}, ${width} x ${height}`;
  const byText = (a: Drawn['texts'][number], b: Drawn['texts'][number]) =>
    a.text.localeCompare(b.text) || a.y - b.y || a.x - b.x;
  const [ownTexts, texts] = [own.texts.sort(byText), picture.texts.sort(byText)];
  expect(
    texts.map(({ text }) => text),
    where,
  ).toEqual(ownTexts.map(({ text }) => text));
  const apart: string[] = [];
  texts.forEach((text, i) => {
    const other = ownTexts[i]!;
    if (text.weight !== other.weight || text.fill !== other.fill)
      apart.push(`${text.text}: ${text.weight} ${text.fill}, ${other.weight} ${other.fill}`);
    for (const side of ['x', 'y', 'width'] as const)
      if (!isNear(text[side], other[side]))
        apart.push(`${text.text}, ${side}: ${text[side]}, ${other[side]}`);
  });
  expect(apart, where).toEqual([]);
  // Very many marks are on a canvas in the page.
  if (!own.marks.length) return;
  expect(
    picture.marks.map(({ colours }) => colours),
    where,
  ).toEqual(own.marks.map(({ colours }) => colours));
  // Said once for all marks: thousands of single expectations take minutes.
  const moved = picture.marks.flatMap(({ box }, i) => {
    const other = own.marks[i]!.box;
    return box.every((px, side) => isNear(px, other[side]!)) ? [] : [`mark ${i}: ${box}, ${other}`];
  });
  expect(moved, where).toEqual([]);
}
