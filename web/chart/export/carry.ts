import { idFrom } from '@sorvik/core/board/id';
import type { Locale } from '@sorvik/core/messages/locale';
import { chartTable } from '@sorvik/core/text/chart-table';
import { readingsCsv } from '@sorvik/core/text/readings-csv';
import { readingsJson } from '@sorvik/core/text/readings-json';
import type { ReadingsTable } from '@sorvik/core/text/readings-table';
import { fontFamily } from '@sorvik/view/font-family';
import { type Picture, pagePicture } from '@sorvik/view/picture/page-picture';
import { picturePng } from '@sorvik/view/picture/picture-png';
import { say } from '../../ui/say';
import { type Carried, type DataWay, isDataWay, type Way } from './carried';

function save(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  // The browser has taken it up by then.
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** The readings as a file of a format. */
const files: Record<DataWay, (table: ReadingsTable) => Promise<Blob>> = {
  csv: async (table) => new Blob([readingsCsv(table)], { type: 'text/csv;charset=utf-8' }),
  json: async (table) => new Blob([readingsJson(table)], { type: 'application/json' }),
  arrow: async (table) => {
    const { readingsArrow } = await import('./readings-files');
    return new Blob([readingsArrow(table) as BlobPart], { type: 'application/vnd.apache.arrow.file' });
  },
  xlsx: async (table) => (await import('./readings-files')).readingsXlsx(table),
};

/** Dots for each px of a picture. */
const sharpness = 2;

async function pngOf(picture: Picture, locale: Locale): Promise<Blob> {
  const png = await picturePng(picture, sharpness);
  if (!png) throw new Error(say(locale, 'menu.tooLarge'));
  return png;
}

/** Takes a chart along; returns what is to be said of it, if anything. */
export async function carry(way: Way, carried: Carried, locale: Locale): Promise<string | null> {
  const name = idFrom(carried.title, [], 'chart');
  if (isDataWay(way)) {
    save(await files[way](chartTable(carried.output)), `${name}.${way}`);
    return null;
  }
  if (way === 'address') {
    if (!navigator.clipboard) throw new Error(say(locale, 'menu.cannotCopyText'));
    await navigator.clipboard.writeText(new URL(carried.address, location.href).href);
    return say(locale, 'menu.addressCopied');
  }
  const { output, svg, title } = carried;
  const picture = pagePicture({ output, beside: svg.parentElement!, title, family: fontFamily });
  if (way === 'svg') {
    save(new Blob([(await picture).text], { type: 'image/svg+xml;charset=utf-8' }), `${name}.svg`);
    return null;
  }
  if (way === 'png') {
    save(await pngOf(await picture, locale), `${name}.png`);
    return null;
  }
  if (!navigator.clipboard || typeof ClipboardItem === 'undefined')
    throw new Error(say(locale, 'menu.cannotCopy'));
  // Handed over at once, as a promise: a browser lets a page copy only in answer to a press.
  await navigator.clipboard.write([
    new ClipboardItem({ 'image/png': picture.then((made) => pngOf(made, locale)) }),
  ]);
  return say(locale, 'menu.copied');
}
