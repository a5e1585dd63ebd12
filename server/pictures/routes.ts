import { leverPrefix, pictureWords } from '@sorvik/core/levers/picture-address';
import { positionsFromQuery } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import type { Context } from 'hono';
import { LRUCache } from 'lru-cache';
import { linkGiven, linkHeader } from '../access/access';
import { HttpProblem, invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { tell } from '../tell';
import { fingerprint } from './fingerprint';
import { type Ask, gathered, shownBoardFor } from './gather';
import { type PictureFormat, pictureFormats } from './painter-order';
import { type Painters, SlowPicture, TooManyPictures } from './painters';
import { PictureQuery } from './picture-query';

const types: Record<PictureFormat, string> = {
  svg: 'image/svg+xml',
  png: 'image/png',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
};

/** The size of a plot where an address says none, px. */
const usual = { width: 640, height: 360 };

/** Pictures that were made are kept, up to so many bytes. */
const keptBytes = 64 * 1024 * 1024;

const isFormat = (text: string): text is PictureFormat =>
  (pictureFormats as readonly string[]).includes(text);

/** Answers a request as the whole application does. */
type Fetch = (request: Request, env: unknown) => Response | Promise<Response>;

/** Asks the API for whoever asks for a picture: with what they are known by, and as long as they wait. */
const askFor =
  (fetch: Fetch, c: Context): Ask =>
  async (path, init = {}) => {
    const headers = new Headers(init.headers);
    for (const name of ['cookie', 'authorization', 'x-forwarded-for', 'host']) {
      const value = c.req.header(name);
      if (value !== undefined) headers.set(name, value);
    }
    const link = linkGiven(c);
    if (link !== undefined) headers.set(linkHeader, link);
    const { signal } = c.req.raw;
    return fetch(new Request(new URL(path, c.req.url), { ...init, headers, signal }), c.env);
  };

/** Where an address says that levers stand. Throws 400 for what no lever is called, or cannot be read. */
function positionsIn(c: Context, levers: readonly Lever[]) {
  const query = new URLSearchParams();
  const own: readonly string[] = pictureWords;
  const names = new Set(levers.filter(({ hidden }) => !hidden).map(({ id }) => id));
  for (const [name, values] of Object.entries(c.req.queries())) {
    if (own.includes(name)) continue;
    const id = name.startsWith(leverPrefix) ? name.slice(leverPrefix.length) : name;
    if (!names.has(id))
      throw invalid([
        { pointer: `/${name}`, message: tell('pictures.noLever', { name, levers: [...names].join(', ') }) },
      ]);
    for (const value of values) query.append(id, value);
  }
  const { positions, unread } = positionsFromQuery(levers, query);
  if (unread.length)
    throw invalid(
      unread.map((id) => ({ pointer: `/${id}`, message: tell('pictures.noPosition', { lever: id }) })),
    );
  return positions;
}

/** Pictures of what is published: a chart where its levers stand, drawn on the server, and the values that it shows. */
export function addPictureRoutes(routes: Routes, painters: Painters, fetch: Fetch): void {
  const kept = new LRUCache<string, Uint8Array>({
    maxSize: keptBytes,
    sizeCalculation: (bytes) => bytes.byteLength + 1,
  });
  routes.add(
    {
      method: 'get',
      path: '/pictures/:id/:file',
      counts: 'question',
      needs: { board: 'shown' },
      summary:
        'A chart as a picture (.svg, .png), or the values that it shows (.csv, .json); levers by their ids',
      query: PictureQuery,
      open: true,
      answers: { 200: 'image/svg+xml' },
    },
    async (c, { query }) => {
      const [, name = '', format = ''] = /^(.+)\.([a-z]+)$/.exec(c.req.param('file')!) ?? [];
      const ask = askFor(fetch, c);
      const { document } = await shownBoardFor(ask, c.req.param('id')!);
      const board = query.lang ? { ...document, locale: query.lang } : document;
      if (!isFormat(format) || !board.charts.some(({ id }) => id === name))
        throw new HttpProblem(
          404,
          'not-found',
          tell('pictures.noChart', { charts: board.charts.map(({ id }) => id).join(', ') }),
        );
      // A link shows what it shows, where the address does not say otherwise.
      const shown = new URLSearchParams(routes.access.visit(c)?.positions);
      const positions = {
        ...positionsFromQuery(board.levers, shown).positions,
        ...positionsIn(c, board.levers),
      };
      const drawn = {
        ...(await gathered(ask, { board, chart: name, positions }, new Date())),
        width: query.width ?? usual.width,
        height: query.height ?? usual.height,
      };
      const order = {
        drawn,
        format,
        scale: query.scale ?? 2,
        theme: query.theme ?? board.ground ?? 'light',
        caption: query.caption ?? true,
      };
      const print = fingerprint(order);
      const headers = { etag: `"${print}"`, 'cache-control': 'private, max-age=0, must-revalidate' };
      if (c.req.header('if-none-match') === headers.etag) return c.body(null, 304, headers);
      let picture = kept.get(print);
      if (!picture) {
        const made = await painters.paint(order, c.req.raw.signal).catch((error) => {
          if (error instanceof TooManyPictures)
            throw new HttpProblem(
              503,
              'too-many-pictures',
              tell('pictures.tooMany'),
              {},
              { 'retry-after': '5' },
            );
          if (error instanceof SlowPicture)
            throw new HttpProblem(413, 'picture-too-large', tell('pictures.tooSlow'));
          throw error;
        });
        if (!(made instanceof Uint8Array))
          throw new HttpProblem(413, 'picture-too-large', tell('pictures.tooLarge', { ...made }));
        picture = made;
        kept.set(print, picture);
      }
      return c.body(picture as Uint8Array<ArrayBuffer>, 200, { ...headers, 'content-type': types[format] });
    },
  );
}
