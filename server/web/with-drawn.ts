import type { DrawnShow } from '@sorvik/core/board/drawn-show';
import { attributes } from './attributes';

const opened = (name: string, said: Readonly<Record<string, string>>): string =>
  ['<', name, ' ', attributes(said), '>'].join('');

/** The page with a show already in it, over the place where the page draws itself, and its values for who runs no scripts. */
export function withDrawn(page: string, { html, values, lang, dir, ground }: DrawnShow): string {
  const drawn = [opened('div', { id: 'drawn' }), html, '</div>'];
  const plain = ['<noscript><style>#drawn{position:static}</style>', values, '</noscript>'];
  return page
    .replace(/<html[^>]*>/, () => opened('html', { lang, dir, 'data-bs-theme': ground }))
    .replace(/<div id="root"><\/div>/, (root) => [root, ...drawn, ...plain].join(''));
}
