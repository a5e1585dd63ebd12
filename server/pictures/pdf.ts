import PdfDocument from 'pdfkit';
import svgToPdf from 'svg-to-pdfkit';
import { pagesOf, type Stretch } from './pages';
import type { Pages } from './painter-order';
import type { Painted } from './painting';

/** The size of a page as it stands, points, and its margin. */
const sizes = { a4: [595.28, 841.89], a3: [841.89, 1190.55], letter: [612, 792] } as const;
const margin = 28;

/** What a PDF says of itself. */
export interface PdfWords {
  title: string;
  lang: string;
  /** What each chart shows, in words. */
  alt: string;
}

/** The picture, with what lies in a stretch of it and nothing else. */
function partOf({ svg, width, boxes }: Painted, { top, bottom }: Stretch): string {
  const away = boxes.filter((box) => box.bottom <= top || box.top >= bottom).map(({ element }) => element);
  const shown = new Map(away.map((element) => [element, element.nextSibling]));
  const { parentNode } = away[0] ?? { parentNode: null };
  for (const element of away) element.remove();
  svg.setAttribute('viewBox', `0 ${top} ${width} ${bottom - top}`);
  svg.setAttribute('height', String(bottom - top));
  const text = svg.outerHTML;
  // From the last one on: each stands before one that is there again.
  for (const [element, next] of [...shown].reverse()) parentNode!.insertBefore(element, next);
  return text;
}

/** A picture whose texts are outlines as a PDF of one or several pages, as wide as they are. */
export async function pdfOf(
  picture: Painted,
  { paper, orientation }: Pages,
  { title, lang, alt }: PdfWords,
): Promise<Uint8Array> {
  const [short, long] = sizes[paper];
  const [width, height] = orientation === 'landscape' ? [long, short] : [short, long];
  const file = new PdfDocument({
    autoFirstPage: false,
    pdfVersion: '1.7',
    tagged: true,
    displayTitle: true,
    lang,
    info: { Title: title },
    size: [width, height],
    margin,
  });
  const chunks: Buffer[] = [];
  file.on('data', (chunk: Buffer) => chunks.push(chunk));
  const done = new Promise((resolve, reject) => file.on('end', resolve).on('error', reject));
  const scale = (width - 2 * margin) / picture.width;
  const stretches = pagesOf(picture.boxes, picture.height, (height - 2 * margin) / scale);
  stretches.forEach((stretch, i) => {
    file.addPage();
    const figure = file.struct('Figure', { alt: i ? title : alt }, () =>
      svgToPdf(file, partOf(picture, stretch), margin, margin, {
        width: picture.width * scale,
        height: (stretch.bottom - stretch.top) * scale,
        preserveAspectRatio: 'xMinYMin',
        assumePt: true,
      }),
    );
    file.addStructure(figure);
    figure.end();
  });
  file.end();
  await done;
  return new Uint8Array(Buffer.concat(chunks));
}
