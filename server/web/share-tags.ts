import { pictureAddress } from '@sorvik/core/levers/picture-address';
import { framersName, showAddress } from '@sorvik/core/levers/show-address';
import { attributes } from './attributes';

/**
 * What a page says of itself for whoever shows a link to it, with its picture (the Open Graph protocol): where its levers stand
 * as its address has them, and by the link that lets whoever has it see the board.
 */
export function shareTags(
  { title, subtitle }: { title: string; subtitle: string },
  { id, origin, query }: { id: string; origin: string; query: URLSearchParams },
): string {
  const { levers, link } = showAddress(query);
  const image = new URL(pictureAddress({ board: id, format: 'png' }, levers), origin);
  image.searchParams.set('scale', '1');
  if (link !== null) image.searchParams.set('link', link);
  const said: [property: string, content: string][] = [
    ['og:type', 'website'],
    ['og:site_name', 'Sorvik'],
    ['og:title', title],
    ...(subtitle ? [['og:description', subtitle] as [string, string]] : []),
    ['og:image', image.href],
    ['og:image:type', 'image/png'],
    ['og:image:alt', title],
  ];
  return said
    .map(([property, content]) => ['<meta', attributes({ property, content }), '/>'].join(' '))
    .join('\n');
}

/** Tells the page of a show in a frame with which pages it may speak; empty where it is in none. */
export const framersTag = (origins: readonly string[]): string =>
  origins.length
    ? ['<meta', attributes({ name: framersName, content: origins.join(' ') }), '/>'].join(' ')
    : '';
