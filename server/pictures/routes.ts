import type { Board } from '@sorvik/core/board/board';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { leverPrefix, pictureWords } from '@sorvik/core/levers/picture-address';
import { positionsFromQuery } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import type { Context } from 'hono';
import { LRUCache } from 'lru-cache';
import { type Ask, askAs, type Fetch } from '../access/ask-as';
import { HttpProblem, invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { tell } from '../tell';
import type { Drawn } from './drawn';
import { fingerprint } from './fingerprint';
import { gathering, shownBoardFor } from './gather';
import { boardFormats, chartFormats, type PictureFormat, type PictureOrder } from './painter-order';
import { type Painters, SlowPicture, TooManyPictures } from './painters';
import { PictureQuery } from './picture-query';

const types: Record<PictureFormat, string> = {
  svg: 'image/svg+xml',
  png: 'image/png',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
  pdf: 'application/pdf',
};

/** The size of a plot where an address says none, px. */
const usual = { width: 640, height: 360 };
/** The size of a whole board at least, where an address says none, px. */
const wholeBoard = { width: 1280, height: 720 };

/** Pictures that were made are kept, up to so many bytes. */
const keptBytes = 64 * 1024 * 1024;

const isOneOf = <T extends string>(formats: readonly T[], text: string): text is T =>
  (formats as readonly string[]).includes(text);

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

/** `by-route.png` as a name and a format. */
function nameAndFormat(file: string): [name: string, format: string] {
  const [, name = '', format = ''] = /^(.+)\.([a-z]+)$/.exec(file) ?? [];
  return [name, format];
}

const noChart = ({ charts }: Board) =>
  new HttpProblem(
    404,
    'not-found',
    tell('pictures.noChart', { charts: charts.map(({ id }) => id).join(', ') }),
  );

/** All charts of a board; of those that cannot be had, why. */
const chartsOf = async (ask: Ask, asked: { board: Board; positions: Positions }, now: Date) => {
  const { charts } = asked.board;
  const { standing, chart } = await gathering(ask, { ...asked, charts }, now);
  const all = await Promise.all(
    charts.map((each) =>
      chart(each).catch((error) => {
        if (error instanceof HttpProblem && error.status !== 401)
          return { chart: each.id, problem: error.message };
        throw error;
      }),
    ),
  );
  return { ...standing, all };
};

/** Pictures of what is published: a chart or a whole board where its levers stand, drawn on the server, and the values that a chart shows. */
export function addPictureRoutes(routes: Routes, painters: Painters, fetch: Fetch): void {
  const kept = new LRUCache<string, Uint8Array>({
    maxSize: keptBytes,
    sizeCalculation: (bytes) => bytes.byteLength + 1,
  });

  /** What is published of a board in the language that is asked for, and where its levers are to stand. */
  const wanted = async (c: Context, ask: Ask, id: string, { lang }: PictureQuery) => {
    const { document } = await shownBoardFor(ask, id);
    const board = lang ? { ...document, locale: lang } : document;
    // A link shows what it shows, where the address does not say otherwise.
    const shown = new URLSearchParams(routes.access.visit(c)?.positions);
    const positions = {
      ...positionsFromQuery(board.levers, shown).positions,
      ...positionsIn(c, board.levers),
    };
    return { board, positions };
  };

  /** Answers with a picture: one that is kept where there is one, and none where whoever asks has it. */
  const answer = async (c: Context, order: PictureOrder): Promise<Response> => {
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
    return c.body(picture as Uint8Array<ArrayBuffer>, 200, {
      ...headers,
      'content-type': types[order.format],
    });
  };

  const orderOf = (query: PictureQuery, format: PictureFormat, drawn: Drawn): PictureOrder => ({
    ...{ drawn, format },
    scale: query.scale ?? 2,
    theme: query.theme ?? drawn.board.ground ?? 'light',
    caption: query.caption ?? true,
    paper: query.paper ?? 'a4',
    orientation: query.orientation ?? 'landscape',
  });

  const usualSpec = {
    method: 'get',
    counts: 'question',
    query: PictureQuery,
    open: true,
    answers: { 200: 'image/svg+xml' },
  } as const;
  routes.add(
    {
      ...usualSpec,
      path: '/pictures/:id/:file',
      needs: { board: 'shown' },
      summary:
        'A chart as a picture (.svg, .png), or the values that it shows (.csv, .json); levers by their ids',
    },
    async (c, { query }) => {
      const [name, format] = nameAndFormat(c.req.param('file')!);
      const ask = askAs(fetch, c);
      const asked = await wanted(c, ask, c.req.param('id')!, query);
      const chart = asked.board.charts.find(({ id }) => id === name);
      if (!isOneOf(chartFormats, format) || !chart) throw noChart(asked.board);
      const found = await gathering(ask, { ...asked, charts: [chart] }, new Date());
      const drawn = {
        ...found.standing,
        one: await found.chart(chart),
        width: query.width ?? usual.width,
        height: query.height ?? usual.height,
      };
      return answer(c, orderOf(query, format, drawn));
    },
  );
  routes.add(
    {
      ...usualSpec,
      path: '/pictures/:file',
      needs: 'visitor',
      summary: 'A whole board as a picture (.svg, .png, .pdf); levers by their ids',
    },
    async (c, { query }) => {
      const [id, format] = nameAndFormat(c.req.param('file')!);
      await routes.access.needShown(c, id);
      const ask = askAs(fetch, c);
      const asked = await wanted(c, ask, id, query);
      if (!isOneOf(boardFormats, format)) throw noChart(asked.board);
      const drawn = {
        ...(await chartsOf(ask, asked, new Date())),
        width: query.width ?? wholeBoard.width,
        height: query.height ?? wholeBoard.height,
      };
      return answer(c, orderOf(query, format, drawn));
    },
  );
}
