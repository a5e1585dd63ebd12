import { tell } from '../tell';
import 'reflect-metadata/lite';
import { problemsOf } from '@sorvik/core/board/problem';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { type Context, Hono } from 'hono';
import type { Action, Admission, Counted, Needs } from '../access/needs';
import { HttpProblem, invalid } from './problem';
import { refuseTooMuch, refuseUnkeepable } from './well-formed';

export type JsonSchema = Record<string, unknown>;
type Input = new () => object;

export interface RouteSpec<Q, B> {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** In Hono's spelling: `/api/boards/:id`. */
  path: string;
  summary: string;
  /** What whoever asks must be allowed. */
  needs: Needs;
  /** What the audit trail calls it; left out, it is not in there, or the handler says more. */
  noted?: Action;
  query?: new () => Q & object;
  /** Other parameters may stand beside those of `query`: the handler looks at them. */
  open?: true;
  body?: new () => B & object;
  /** The media type of a body that is not plain JSON, read by the handler itself. */
  rawBody?: { type: string; schema?: JsonSchema };
  /** What it is counted as, of what each person may ask for. */
  counts?: Counted;
  /** Whether it needs room on the disk; without saying so, what posts, puts or patches does. */
  stores?: boolean;
  /** Status to schema of the JSON answer, or to a media type of another one. */
  answers: Record<number, JsonSchema | string | null>;
}

type Handler<Q, B> = (c: Context, input: { query: Q; body: B }) => Response | Promise<Response>;

function checked<T>(Class: new () => T & object, plain: unknown, open = false): T {
  if (typeof plain !== 'object' || plain === null || Array.isArray(plain))
    throw invalid([{ pointer: '', message: tell('http.theBodyMustBe') }]);
  const instance = plainToInstance(Class, plain) as T & object;
  const errors = problemsOf(validateSync(instance, { whitelist: true, forbidNonWhitelisted: !open }));
  if (errors.length) throw invalid(errors);
  return instance;
}

/** Reads a JSON body, or says what is wrong with it. What is too large or too deep is never made into values. */
export async function readJson(c: Context): Promise<unknown> {
  const text = await c.req.text();
  refuseTooMuch(text);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new HttpProblem(400, 'not-json', tell('http.theBodyIsNot'));
  }
  refuseUnkeepable(value);
  return value;
}

/** Repeated parameters become lists, single ones stay text; the input class says which it wants. */
const queryOf = (c: Context) =>
  Object.fromEntries(
    Object.entries(c.req.queries()).map(([name, values]) => [name, values.length > 1 ? values : values[0]]),
  );

const routeOf = new WeakMap<Context, string>();
/** The route that answers a request, as it is described; undefined before it is found, or where there is none. */
export const routeFor = (c: Context): string | undefined => routeOf.get(c);

/**
 * Routes that describe themselves: what is registered here is what the OpenAPI document lists, and input is validated
 * by the very classes it lists.
 */
export class Routes {
  readonly app = new Hono();
  // biome-ignore lint/suspicious/noExplicitAny: routes of all inputs stand in one list
  readonly specs: RouteSpec<any, any>[] = [];

  /** `beforeStoring` throws where nothing more can be stored. */
  constructor(
    readonly access: Admission,
    private readonly beforeStoring: () => Promise<void> = async () => {},
  ) {}

  add<Q = Record<string, never>, B = undefined>(spec: RouteSpec<Q, B>, handler: Handler<Q, B>): this {
    this.specs.push(spec);
    const stores = spec.stores ?? ['post', 'put', 'patch'].includes(spec.method);
    this.app.on(spec.method.toUpperCase(), spec.path, async (c) => {
      routeOf.set(c, spec.path);
      await this.access.admit(c, spec.needs);
      if (spec.counts) await this.access.count(c, spec.counts);
      if (stores) await this.beforeStoring();
      const query = (spec.query ? checked(spec.query, queryOf(c), spec.open) : {}) as Q;
      const body = (spec.body ? checked(spec.body, await readJson(c)) : undefined) as B;
      const answer = await handler(c, { query, body });
      if (spec.noted && answer.ok) await this.access.note(c, spec.noted, c.req.path.slice('/api/'.length));
      return answer;
    });
    return this;
  }

  /** The input classes of all routes. */
  inputs(): Input[] {
    return this.specs
      .flatMap((spec) => [spec.query, spec.body])
      .filter((input): input is Input => input !== undefined);
  }
}
