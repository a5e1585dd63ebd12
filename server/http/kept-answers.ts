import { createHash } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Context, MiddlewareHandler, Next } from 'hono';
import { LRUCache } from 'lru-cache';
import type { Changes } from '../db/changes';
import { bytesOf, type Packed, packed, packedOf, sendPacked, takesGzip } from './packed';

interface Kept {
  body: Packed;
  headers: Record<string, string>;
  /** Names what is in it; null where the answer has a tag that means something else. */
  tag: string | null;
  /** All headers as they went out, but those of one answer alone; null until it has gone out once. */
  sent: Record<string, string> | null;
}

const keptBytes = 64 * 1024 * 1024;
/** So often in a row something changes while an answer is made, and whoever waits for it waits for the next. */
const mostTries = 3;
/** Datasets and boards, alone and listed, what viewers see of a board, and cubes. */
const keptPaths = /^\/api\/(datasets|boards)(\/[^/]+(\/(shown|cube))?)?$/;

/** Questions that are too long for an address are posted; they change nothing. */
const onlyAsks = /^\/api\/datasets\/[^/]+\/fields\/[^/]+\/absent$/;

/** What is saved most often: it changes nothing but the board. */
const savesBoard = (c: Context): boolean =>
  c.req.method === 'PATCH' && /^\/api\/boards\/[^/]+$/.test(c.req.path);

/** Headers that are of one answer alone, or said anew. */
const ownHeaders = /^(x-request-id|content-length|content-encoding|date|vary|connection|keep-alive)$/;

/** Whether an answer is compressed is found out each time. */
const ofPacking = /^accept-encoding$/i;

/**
 * Keeps answers that say what is in the database, until anything there changes. An answer is only kept where nothing
 * changed while it was made. One that says `no-store` is not kept.
 */
export class KeptAnswers {
  private readonly kept = new LRUCache<string, Kept>({
    maxSize: keptBytes,
    sizeCalculation: ({ body }) => bytesOf(body),
  });
  /** Answers that are being made: who asks for the same meanwhile waits for that one. */
  private readonly onTheWay = new Map<string, Promise<void>>();
  private readonly made = new WeakMap<Context, Kept>();
  private state = 0;

  constructor(private readonly changes: Changes) {
    changes.on(() => {
      this.state++;
      this.kept.clear();
    });
  }

  /** Whoever changes something here sees it at once, whenever the database tells of it. */
  readonly tellAfter: MiddlewareHandler = async (c, next) => {
    await next();
    if (c.req.method !== 'GET') this.changes.tell(savesBoard(c) ? 'boards' : undefined);
  };

  /** Answers with what is kept, and keeps what is answered. */
  readonly middleware: MiddlewareHandler = async (c, next) => {
    const { changes, kept } = this;
    if (onlyAsks.test(c.req.path)) return next();
    if (c.req.method !== 'GET') return this.tellAfter(c, next);
    if (!changes.listening || !keptPaths.test(c.req.path)) return next();
    const address = addressOf(c);
    for (let tries = 0; tries < mostTries && !kept.has(address); tries++) {
      const { state } = this;
      const other = this.onTheWay.get(this.wayTo(address));
      if (!other) break;
      await other;
      // Where nothing has changed meanwhile, it is one that is not kept: not to wait for nothing, whoever waited makes their own.
      if (this.state === state) break;
    }
    const known = kept.get(address);
    if (known) {
      this.made.set(c, known);
      if (known.tag !== null && c.req.header('if-none-match') === known.tag)
        return c.body(null, 304, { etag: known.tag, 'cache-control': 'no-cache' });
      return sendPacked(c, known.body, known.headers);
    }
    const making = this.make(c, next, address);
    const way = this.wayTo(address);
    if (!this.onTheWay.has(way)) {
      const settled = making.then(
        () => {},
        () => {},
      );
      this.onTheWay.set(way, settled);
      void settled.then(() => this.onTheWay.delete(way));
    }
    return making;
  };

  private wayTo(address: string): string {
    return `${this.state} ${address}`;
  }

  /** Has an answer made, and keeps it where nothing has changed meanwhile. */
  private async make(c: Context, next: Next, address: string): Promise<void> {
    const before = this.state;
    await next();
    if (c.res.status !== 200 || c.res.headers.get('cache-control') === 'no-store') return;
    const body = packedOf(c) ?? (await packed(new Uint8Array(await c.res.clone().arrayBuffer())));
    const [own, caching] = ['etag', 'cache-control'].map((name) => c.res.headers.get(name));
    // What never changes is not asked for again, and needs no tag.
    const tag = own || caching ? null : `"${createHash('sha256').update(body.plain).digest('base64url')}"`;
    const headers = {
      'content-type': c.res.headers.get('content-type') ?? 'application/json',
      'cache-control': caching ?? 'no-cache',
      ...(own || tag ? { etag: (own ?? tag)! } : {}),
    };
    for (const [name, value] of Object.entries(headers)) c.header(name, value);
    if (this.state !== before) return;
    const entry: Kept = { body, headers, tag, sent: null };
    this.kept.set(address, entry);
    this.made.set(c, entry);
  }

  /** Notes with which headers an answer went out: it is then sent without being made. */
  wentOut(c: Context): void {
    const entry = this.made.get(c);
    // What a page elsewhere is told is for its origin alone.
    if (!entry || entry.sent || c.res.status !== 200 || c.req.header('origin')) return;
    const common = [...c.res.headers].filter(([name]) => !ownHeaders.test(name));
    const varies = (c.res.headers.get('vary') ?? '')
      .split(/,\s*/)
      .filter((each) => each && !ofPacking.test(each));
    // What compressed the first one may have named it otherwise.
    entry.sent = {
      ...Object.fromEntries(common),
      ...entry.headers,
      ...(varies.length ? { vary: varies.join(', ') } : {}),
    };
  }

  /**
   * Sends an answer that is kept and has gone out before, ahead of all else that a request goes through: `id` names it.
   * False where there is none; the request is then answered as usual.
   */
  send(request: IncomingMessage, response: ServerResponse, id: string): boolean {
    const { method, url = '', headers } = request;
    if (method !== 'GET' || !this.changes.listening || headers['content-length']) return false;
    const known = this.kept.get(url);
    if (!known?.sent) return false;
    const { plain, gzip } = known.body;
    if (known.tag !== null && headers['if-none-match'] === known.tag) {
      response.writeHead(304, { ...known.sent, 'x-request-id': id }).end();
      return true;
    }
    const small = gzip && takesGzip(headers['accept-encoding']);
    const body = small ? gzip : plain;
    response
      .writeHead(200, {
        ...known.sent,
        'x-request-id': id,
        ...(gzip ? { vary: ['accept-encoding', known.sent.vary].filter(Boolean).join(', ') } : {}),
        ...(small ? { 'content-encoding': 'gzip' } : {}),
        'content-length': body.byteLength,
      })
      .end(body);
    return true;
  }
}

/** The address without the host: what it is called makes no difference. */
const addressOf = (c: Context): string => {
  const { pathname, search } = new URL(c.req.url);
  return `${pathname}${search}`;
};
