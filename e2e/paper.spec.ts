import { getDocumentProxy } from 'unpdf';
import { demoBoards, expect, test } from './fixtures';

test.use({ colorScheme: 'dark' });

interface Written {
  text: string;
  page: number;
  left: number;
  right: number;
  bottom: number;
}

/** All that is written on the pages of a PDF, in points from the lower left corner of each. */
async function writtenIn(
  pdf: Buffer,
): Promise<{ pages: { width: number; height: number }[]; texts: Written[] }> {
  const document = await getDocumentProxy(new Uint8Array(pdf));
  const pages: { width: number; height: number }[] = [];
  const texts: Written[] = [];
  for (let number = 1; number <= document.numPages; number++) {
    const page = await document.getPage(number);
    const [, , width = 0, height = 0] = page.view;
    pages.push({ width, height });
    const { items } = await page.getTextContent();
    for (const item of items)
      if ('str' in item && item.str.trim()) {
        const [, , , , left = 0, bottom = 0] = item.transform as number[];
        texts.push({ text: item.str.trim(), page: number, left, right: left + item.width, bottom });
      }
  }
  return { pages, texts };
}

/** The contrast of each text with white paper, as the page would print it; the least of them. */
const leastContrast = () => {
  const luminance = (colour: string) => {
    const [r = 0, g = 0, b = 0] = colour.match(/[\d.]+/g)!.map(Number);
    const [x, y, z] = [r, g, b].map((part) => {
      const share = part / 255;
      return share <= 0.03928 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * x! + 0.7152 * y! + 0.0722 * z!;
  };
  const found = [
    ...document.querySelectorAll<HTMLElement>(
      'h1, h2, figcaption, svg text:not([data-inside="yes"]), [data-part="print-foot"]',
    ),
  ]
    .filter((each) => each.checkVisibility() && each.textContent?.trim())
    .map((each) => {
      const { color, fill } = getComputedStyle(each);
      const rgb = each instanceof SVGElement ? fill : color;
      return { text: each.textContent!.slice(0, 40), contrast: 1.05 / (luminance(rgb) + 0.05) };
    });
  return found.sort((a, b) => a.contrast - b.contrast)[0]!;
};

for (const slug of demoBoards)
  test(`${slug} on paper: no chart is cut, nothing runs over the edge, all can be read`, async ({ page }) => {
    await page.goto(`/show/${slug}`);
    const charts = page.locator('[data-part~="chart"]');
    await expect(charts.last().locator('figcaption')).not.toBeEmpty();
    await page.evaluate(() => dispatchEvent(new Event('beforeprint')));
    await page.emulateMedia({ media: 'print', colorScheme: 'dark' });
    const { text, contrast } = await page.evaluate(leastContrast);
    expect(contrast, text).toBeGreaterThan(3);
    await page.emulateMedia({ media: null });
    const pdf = await page.pdf({ format: 'A4' });
    const { pages, texts } = await writtenIn(pdf);

    const over = texts.filter(({ page: number, left, right, bottom }) => {
      const { width, height } = pages[number - 1]!;
      return left < 0 || bottom < 0 || right > width || bottom > height;
    });
    expect(over).toEqual([]);
    // Each chart is on one page: its caption, which stands under the plot, is where its title is.
    const told = await charts.evaluateAll((figures) =>
      figures.map((figure) => ({
        title: figure.querySelector('h2')!.textContent!.trim(),
        caption: figure.querySelector('figcaption')!.textContent!.trim(),
      })),
    );
    const plain = (text: string) => text.replace(/\s+/g, '');
    const onPage = pages.map((_, at) =>
      texts.flatMap(({ page: number, text }) => (number === at + 1 ? plain(text) : [])).join(''),
    );
    for (const { title, caption } of told) {
      const pageOf = (text: string) => onPage.findIndex((all) => all.includes(plain(text)));
      expect(pageOf(title), title).toBeGreaterThanOrEqual(0);
      expect(pageOf(caption), caption).toBe(pageOf(title));
    }
    // The last page says when that was.
    expect(onPage.at(-1)).toContain(String(new Date().getFullYear()));
  });
