import { readFileSync } from 'node:fs';
import { extname, join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { serveStatic } from '@hono/node-server/serve-static';
import { roomCookie, roomIn, type ShowRoom } from '@sorvik/core/board/show-room';
import { today } from '@sorvik/core/data/today';
import { showAddress } from '@sorvik/core/levers/show-address';
import type { Context, Hono } from 'hono';
import { getCookie } from 'hono/cookie';
import { type Access, linkGiven } from '../access/access';
import { askAs, type Fetch } from '../access/ask-as';
import { type ShowOnPage, showOnPage } from '../boards/show-on-page';
import type { Database } from '../db/client';
import { Remembered } from '../db/remembered';
import type { DrawnShows } from '../shows/drawn-shows';
import { framersOf } from './framed-shows';
import { framersTag, shareTags } from './share-tags';
import { withDrawn } from './with-drawn';

/** What pages are made of. */
export interface PageParts {
  /** The folder of the built web application. */
  root: string;
  database: Database;
  access: Access;
  /** Draws shows, and answers what they ask for. */
  drawn: DrawnShows;
  fetch: Fetch;
  /** Where people open a server for a team. */
  address: URL | null;
}

/** A head is not to grow beyond what clients take: requests that do not fit are made when the page gets to them. */
const longestLinks = 6000;
/** So long a page waits for what is to be fetched along with it, ms. */
const longestWait = 250;

/** So long a page waits for being drawn where it was not before, ms: a browser draws it in little more. */
const longestDrawing = 300;
/** What is asked for while it is drawn is given up after so long, ms. */
const drawingEnds = 20_000;
/** The window of somebody who has not seen a show before: on a desk, and on a phone, which browsers say. */
const usualRooms = {
  desk: { width: 1280, height: 800, ground: 'light', plots: {} },
  phone: { width: 390, height: 844, ground: 'light', plots: {} },
} satisfies Record<string, ShowRoom>;
const isPhone = ({ req }: Context): boolean =>
  req.header('sec-ch-ua-mobile') === '?1' || /\bMobi/.test(req.header('user-agent') ?? '');

/** What a browser is to fetch along with a page, as its head says it. */
function preloads(requests: readonly string[]): string {
  let links = '';
  for (const request of requests) {
    const link = `<${request}>; rel=preload; as=fetch; crossorigin`;
    if (links.length + link.length > longestLinks) continue;
    links += links ? `, ${link}` : link;
  }
  return links;
}

/** Files of the web application; any other path without an ending is the application's own and gets its page. */
export function addPages(
  app: Hono,
  { root, database: { db, changes }, access, drawn, fetch, address }: PageParts,
): void {
  const file = serveStatic({ root, precompressed: true });
  const page = serveStatic({ root, path: 'index.html', precompressed: true });
  const written = readFileSync(join(root, 'index.html'), 'utf8');
  const shows = new Remembered<ShowOnPage>(changes, ['boards', 'datasets', 'fields'], { max: 200 });

  /** A show with its charts already in it; null where they are not there in time, or it is in a frame. */
  const drawnShow = async (c: Context, board: string, ground: ShowRoom['ground'] | undefined) => {
    const url = new URL(c.req.url);
    const { embedded, levers } = showAddress(url.searchParams);
    if (embedded) return null;
    const usual = usualRooms[isPhone(c) ? 'phone' : 'desk'];
    const room = roomIn(getCookie(c, roomCookie) ?? '') ?? { ...usual, ...(ground ? { ground } : {}) };
    const search = levers.size ? `?${levers}` : '';
    const who = (await access.asker(c))?.id ?? [linkGiven(c), c.req.header('cookie')].join();
    return drawn.of(
      { board, search, room },
      {
        // It goes on when whoever asked has gone: it is there for the next one.
        ask: askAs(fetch, c, AbortSignal.timeout(drawingEnds)),
        who: access.team ? who : '',
        day: today(),
        patience: longestDrawing,
      },
    );
  };

  /** The page of a show. It is as good without what is fetched along: it does not wait for a database that is away. */
  const showPage = async (c: Context, id: string): Promise<Response> => {
    const show = await Promise.race([
      access
        .needShown(c, id)
        .then(() => shows.of(id, () => showOnPage(db, id)))
        .catch(() => null),
      setTimeout(longestWait, null),
    ]);
    const url = new URL(c.req.url);
    const tags = show
      ? shareTags(show, { id, origin: address?.origin ?? url.origin, query: url.searchParams })
      : '';
    // What comes by a link names it in a header, which what is fetched along with a page cannot.
    const along = linkGiven(c) === undefined ? (show?.requests ?? []) : [];
    const page = show && !show.ticks ? await drawnShow(c, id, show.ground) : null;
    const head = written.replace('</head>', () => `${tags}${framersTag(framersOf(c))}</head>`);
    return c.html(page ? withDrawn(head, page) : head, 200, {
      // What is drawn in it is for whoever asked.
      'cache-control': page ? ['private', 'no-cache'].join(', ') : 'no-cache',
      ...(along.length ? { link: preloads(along) } : {}),
    });
  };

  // Browsers ask for this name wherever a page has not yet said another, as over plain JSON.
  app.get('/favicon.ico', (c) => c.redirect('/icon.svg', 301));
  app.get('*', async (c, next) => {
    const show = /^\/show\/([^/]+)$/.exec(c.req.path);
    if (show) return showPage(c, decodeURIComponent(show[1]!));
    let found = await file(c, async () => {});
    if (!found && !extname(c.req.path)) found = await page(c, async () => {});
    if (!found) return next();
    // The names of these files change with what is in them.
    const hashed = /^\/(assets\/|embed\/.+-[\w-]{8}\.js$)/.test(c.req.path);
    found.headers.set('cache-control', hashed ? 'public, max-age=31536000, immutable' : 'no-cache');
    return found;
  });
}
