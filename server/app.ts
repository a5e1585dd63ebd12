import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { type Context, Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { compress } from 'hono/compress';
import { secureHeaders } from 'hono/secure-headers';
import type { Logger } from 'pino';
import { Access } from './access/access';
import { asking } from './access/asking';
import { Audit } from './access/audit';
import { type LimitOptions, Limits, usualLimits } from './access/limits';
import { foreignOrigin, isEmbeddable, otherOrigins } from './access/other-origins';
import { addAccessRoutes } from './access/routes';
import { addAuthorRoutes } from './authors/routes';
import { addBoardFileRoutes } from './boards/file-routes';
import { addBoardRoutes } from './boards/routes';
import { addVersionRoutes } from './boards/version-routes';
import { addChangeRoutes } from './changes/routes';
import { addConnectionRoutes } from './connections/routes';
import { addCubeRoutes } from './cubes/routes';
import { addDeletedDatasetRoutes } from './datasets/deleted-routes';
import { addDatasetRoutes } from './datasets/routes';
import type { Database } from './db/client';
import { Metrics } from './health/metrics';
import { addHealthRoutes } from './health/routes';
import { askedAnew } from './http/asked-anew';
import { addressList, clientAddress } from './http/client-address';
import { KeptAnswers } from './http/kept-answers';
import { openApiDocument } from './http/openapi';
import { failureProblem, HttpProblem, problemResponse } from './http/problem';
import { Routes, routeFor } from './http/routes';
import { refuseMalformed } from './http/well-formed';
import type { ImportJobs } from './imports/jobs';
import { addImportRoutes } from './imports/routes';
import { Links } from './links/links';
import { addLinkRoutes } from './links/routes';
import { addForgottenRoutes } from './people/forgotten-routes';
import { addGroupRoutes } from './people/group-routes';
import { Groups } from './people/groups';
import { Mail, type MailOptions } from './people/mail';
import { OpenId, type OpenIdOptions } from './people/openid';
import { addOpenIdRoutes } from './people/openid-routes';
import { People } from './people/people';
import { PersonTokens } from './people/person-tokens';
import { addPeopleRoutes, beginner } from './people/routes';
import { Sessions } from './people/sessions';
import { addTokenRoutes } from './people/token-routes';
import { Tries } from './people/tries';
import { Painters } from './pictures/painters';
import { addPictureRoutes } from './pictures/routes';
import { addPushRoutes } from './refresh/push-routes';
import type { Refresher } from './refresh/refresher';
import { addRefreshRoutes } from './refresh/routes';
import { addScheduleRoutes } from './refresh/schedule-routes';
import type { Scheduler } from './refresh/scheduler';
import { DrawnShows } from './shows/drawn-shows';
import type { Sources } from './sources/sources';
import { tell } from './tell';
import { framedShows } from './web/framed-shows';
import { addPages } from './web/pages';

export interface AppParts {
  sources: Sources;
  database: Database;
  jobs: ImportJobs;
  refresher: Refresher;
  scheduler: Scheduler;
  log: Logger;
  /** What there is besides where the server is for a team. */
  team?: TeamOptions | undefined;
  /** What lets a program read the metrics from elsewhere. */
  metricsToken?: string | undefined;
  /** The origins whose pages may show what is published, where there is no team: there a link says so. */
  origins?: readonly string[] | undefined;
  /** The folder of the built web application; without it only the API is served. */
  web?: string;
}

const maxJson = 4 * 1024 * 1024;
const maxPushed = 32 * 1024 * 1024;
const pushes = /^\/api\/datasets\/[^/]+\/rows$/;
/** Files go to disk while they come in, and have limits of their own. */
const streamed = /^\/api\/(imports(\/parts)?|board-files\/zip|datasets\/[^/]+\/refreshes)$/;

/** How a server for a team is reached. */
export interface TeamOptions {
  /** Where people open it. */
  address: URL;
  /** How much each person may ask for, where that is to be other than usual. */
  limits?: Partial<LimitOptions> | undefined;
  /** How links are mailed to whoever has forgotten a password. */
  mail?: MailOptions | undefined;
  /** Where people sign in besides, without a password here. */
  openId?: OpenIdOptions | undefined;
  /** Proxies that are believed when they say where a request comes from: addresses, or ranges. */
  proxies: readonly string[];
}

/** The names by which a server that is alone is called. */
const ownNames = ['127.0.0.1', 'localhost', '[::1]'];
const isOneOf = (names: readonly string[], host: string | undefined) =>
  names.includes((host ?? '').toLowerCase().replace(/:\d+$/, ''));

const hostOf = (origin: string): string | null => (URL.canParse(origin) ? new URL(origin).host : null);

/** What whoever runs the server asks on its machine. */
const watchedPaths = ['/healthz', '/readyz', '/metrics'];

/** A page elsewhere must neither reach the server under another name nor write to it. */
function refuseStrangers(c: Context, team: TeamOptions | undefined): void {
  const names = team ? [team.address.hostname] : ownNames;
  const watched = watchedPaths.includes(c.req.path) && isOneOf(ownNames, c.req.header('host'));
  if (!watched && !isOneOf(names, c.req.header('host')))
    throw team
      ? new HttpProblem(403, 'unknown-host', tell('app.openItAt', { address: team.address.origin }))
      : new HttpProblem(403, 'unknown-host', tell('app.sorvikCanOnlyBe'));
  if (c.req.method === 'GET' || c.req.method === 'HEAD') return;
  const origin = c.req.header('origin');
  // Whether it may is found out where that is known.
  if (foreignOrigin(c) !== undefined && isEmbeddable(c) && c.req.header('cookie') === undefined) return;
  // Browsers say where what writes comes from; what has a cookie and does not is none. A page without an origin says "null".
  const unsaid = team !== undefined && !origin && c.req.header('cookie') !== undefined;
  if (unsaid || (origin && hostOf(origin) !== c.req.header('host')))
    throw new HttpProblem(403, 'foreign-origin', tell('app.requestsFromOtherWebsites'));
}

/** The whole HTTP application; `routes` describes its API. */
export function createApp({
  database,
  sources,
  jobs,
  refresher,
  scheduler,
  log,
  team,
  web,
  metricsToken,
  origins = [],
}: AppParts): {
  app: Hono;
  /** People who sign in; nobody does where there is no team. */
  people: People;
  /** Removes sessions and links that have ended. */
  tidy(): Promise<void>;
  /** Ends what works beside it. */
  close(): Promise<void>;
  routes: Routes;
  /** Sends what is kept, as the application would, and sooner; false where it is to be asked. */
  sendKept(request: IncomingMessage, response: ServerResponse): boolean;
} {
  const kept = new KeptAnswers(database.changes);
  const addressOf = clientAddress(addressList(team?.proxies ?? []));
  const secure = team?.address.protocol === 'https:';
  const audit = new Audit(database, addressOf, team !== undefined);
  const links = new Links(database);
  const tokens = new PersonTokens(database);
  const limits = new Limits(database, { ...usualLimits, ...team?.limits });
  const access = new Access(
    database,
    team
      ? {
          sessions: new Sessions(database),
          cookie: secure ? '__Host-sorvik' : 'sorvik',
          links,
          tokens,
          limits,
          addressOf,
        }
      : null,
    audit,
    (id) => jobs.sentBy(id),
  );
  const people = new People(database);
  const routes = new Routes(access, () => database.room.ensure());
  const metrics = new Metrics({
    database,
    imports: () => jobs.states(),
    copies: () => sources.copies?.counts() ?? { ready: 0, waiting: 0 },
  });
  addHealthRoutes(routes, database, metrics, {
    token: metricsToken ?? null,
    others: team !== undefined,
  });
  const tries = new Tries();
  const openId = team?.openId ? new OpenId(team.openId, new URL('/signed-in', team.address)) : null;
  const provider = openId?.name ?? null;
  const mail = team?.mail ? new Mail(team.mail) : null;
  const mails = mail !== null;
  addPeopleRoutes(routes, { access, people, tries, audit, addressOf, secure, provider, mails });
  addForgottenRoutes(routes, { mail, people, audit, log, address: team?.address ?? null, addressOf });
  const begin = beginner({ access, addressOf, secure });
  addOpenIdRoutes(routes, { openId, database, audit, secure, begin });
  addLinkRoutes(routes, { access, links, audit, tries, addressOf, secure });
  addTokenRoutes(routes, { access, tokens, audit });
  addGroupRoutes(routes, { groups: new Groups(database), audit });
  addAccessRoutes(routes, database, access, audit);
  addChangeRoutes(routes, database);
  addDatasetRoutes(routes, sources, jobs.folder);
  addDeletedDatasetRoutes(routes, database);
  addConnectionRoutes(routes, sources);
  addImportRoutes(routes, jobs);
  addRefreshRoutes(routes, refresher);
  addPushRoutes(routes, refresher);
  addScheduleRoutes(routes, { refresher, scheduler });
  addCubeRoutes(routes, sources);
  addBoardRoutes(routes, database);
  addVersionRoutes(routes, database);
  addBoardFileRoutes(routes, database, jobs);
  addAuthorRoutes(routes, database);
  const painters = new Painters();
  addPictureRoutes(routes, painters, (request, env) => app.fetch(request, env as object));
  let document: unknown;
  routes.add(
    {
      method: 'get',
      path: '/api/openapi.json',
      needs: 'person',
      summary: 'This description',
      answers: { 200: { type: 'object' } },
    },
    (c) => {
      document ??= openApiDocument(routes);
      return c.json(document as object);
    },
  );

  const pagesFor = async (c: Context): Promise<readonly string[]> => (team ? access.pagesFor(c) : origins);
  const app = new Hono();
  app.use(async (c, next) => {
    const id = randomUUID();
    const started = performance.now();
    c.header('x-request-id', id);
    await next();
    kept.wentOut(c);
    const ms = Math.round(performance.now() - started);
    metrics.answered(
      routeFor(c) ?? (c.req.path.startsWith('/api/') ? 'other' : 'page'),
      c.req.method,
      c.res.status,
      ms,
    );
    log.info({ request: id, method: c.req.method, path: c.req.path, status: c.res.status, ms });
  });
  app.use(async (c, next) => {
    await next();
    // Whoever has a link may show its pictures on a page of their own.
    if (team && c.req.path.startsWith('/pictures/') && c.req.query('link') !== undefined)
      c.res.headers.set('cross-origin-resource-policy', 'cross-origin');
  });
  app.use(framedShows(pagesFor));
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'self'"],
        // Marks are placed and coloured by style attributes.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'", 'data:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        frameAncestors: ["'none'"],
      },
      strictTransportSecurity: secure ? 'max-age=31536000; includeSubDomains' : false,
    }),
  );
  app.use(async (c, next) => {
    refuseStrangers(c, team);
    refuseMalformed(c);
    await next();
  });
  app.use(otherOrigins(pagesFor));
  app.use(compress());
  const limit = bodyLimit({
    maxSize: maxJson,
    onError: () => {
      throw new HttpProblem(413, 'body-too-large', tell('app.aBodyCanHave'));
    },
  });
  const pushLimit = bodyLimit({
    maxSize: maxPushed,
    onError: () => {
      throw new HttpProblem(413, 'body-too-large', tell('app.aPushCanHave'));
    },
  });
  app.use('/api/*', (c, next) => {
    if (streamed.test(c.req.path)) return next();
    return pushes.test(c.req.path) ? pushLimit(c, next) : limit(c, next);
  });
  // What is kept is the same for everybody: where people sign in, each is answered anew.
  app.use('/api/*', team ? kept.tellAfter : kept.middleware);
  if (team) app.use('/api/*', askedAnew);
  app.use('/api/*', async (c, next) => {
    if (!team) return next();
    const signed = await access.signed(c);
    return asking.run({ person: signed?.person ?? null }, next);
  });
  app.route('/', routes.app);
  app.all('/api/*', (c) => {
    throw new HttpProblem(
      404,
      'not-found',
      tell('app.thereIsNoGet', { method: c.req.method, path: c.req.path }),
    );
  });
  const drawn = new DrawnShows();
  if (web)
    addPages(app, {
      ...{ root: web, database, access, drawn },
      fetch: (request, env) => app.fetch(request, env as object),
      address: team?.address ?? null,
    });

  app.notFound((c) =>
    problemResponse(c, new HttpProblem(404, 'not-found', tell('app.thereIsNothingAt', { path: c.req.path }))),
  );
  app.onError((error, c) => {
    if (error instanceof HttpProblem) return problemResponse(c, error);
    const foreseen = failureProblem(error);
    log.error({ err: error, path: c.req.path }, foreseen?.kind ?? 'request failed');
    return problemResponse(
      c,
      foreseen ?? new HttpProblem(500, 'something-went-wrong', tell('app.theServerLogHas')),
    );
  });
  const sendKept = (request: IncomingMessage, response: ServerResponse): boolean => {
    if (team || request.headers.origin || !isOneOf(ownNames, request.headers.host)) return false;
    const started = performance.now();
    const id = randomUUID();
    if (!kept.send(request, response, id)) return false;
    const { method, url = '' } = request;
    const ms = Math.round(performance.now() - started);
    metrics.answered('kept', 'GET', response.statusCode, ms);
    log.info({ request: id, method, path: url.split('?')[0], status: response.statusCode, ms });
    return true;
  };
  const tidy = async () => {
    await access.team?.sessions.sweep();
    await people.sweep();
    await links.sweep();
    await tokens.sweep();
  };
  return {
    app,
    people,
    tidy,
    routes,
    sendKept,
    close: async () => void (await Promise.all([painters.close(), drawn.close()])),
  };
}
