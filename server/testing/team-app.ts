import { expect } from 'vitest';
import type { TeamOptions } from '../app';
import { testApp } from './test-app';

export const teamAddress = new URL('https://boards.example.org');
export const teamPassword = 'seven brown herons';

const cookieOf = (headers: Headers) => headers.get('set-cookie')!.split(';')[0]!;

/** The application for a team, whose first owner is Olga; and who else comes. */
export async function teamApp({
  openId,
  limits,
  mail,
  ...options
}: Omit<NonNullable<Parameters<typeof testApp>[0]>, 'team'> &
  Pick<TeamOptions, 'openId' | 'limits' | 'mail'> = {}) {
  const t = await testApp({
    ...options,
    team: { address: teamAddress, proxies: [], openId, limits, mail },
  });
  /** What a browser of each sends along. */
  const cookies: Record<string, string> = {};
  const ids: Record<string, string> = {};

  /** Asks as somebody, or as nobody. */
  async function as(
    who: string | null,
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ) {
    const response = await t.request(path, {
      method,
      headers: {
        host: teamAddress.host,
        ...(method === 'GET' ? {} : { origin: teamAddress.origin }),
        ...(who ? { cookie: cookies[who]! } : {}),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    // A stream of events has no end to wait for.
    const isEndless = response.headers.get('content-type')?.startsWith('text/event-stream');
    const text = isEndless ? '' : await response.text();
    if (isEndless) await response.body!.cancel();
    const isJson = /json/.test(response.headers.get('content-type') ?? '') && !text.includes('}\n{');
    return {
      status: response.status,
      headers: response.headers,
      body: isJson && text ? JSON.parse(text) : text,
    };
  }

  /** Somebody new, by an invitation. */
  async function join(name: string, token: string) {
    const { status, headers, body } = await as(null, 'POST', '/api/invitations/take', {
      token,
      name,
      email: `${name.toLowerCase()}@example.org`,
      password: teamPassword,
    });
    expect(status, JSON.stringify(body)).toBe(200);
    cookies[name] = cookieOf(headers);
    ids[name] = body.person.id;
  }

  await join('Olga', (await t.people.firstLink())!);
  return {
    t,
    as,
    cookies,
    ids,
    cookieOf,
    /** Somebody new, whom Olga has invited. */
    async invited(name: string, more = {}) {
      const { body } = await as('Olga', 'POST', '/api/people/invitations', more);
      await join(name, body.path.split('#')[1]);
    },
    /** A dataset of somebody's; its id. */
    async imported(who: string, name: string, csv = 'quay,tons\nQuel,4\nHarl,6\n'): Promise<string> {
      const sent = await as(who, 'POST', `/api/imports?name=${name}.csv`, csv, {
        'content-type': 'text/csv',
      });
      expect(sent.status).toBe(201);
      for (;;) {
        const { body } = await as(who, 'GET', `/api/imports/${sent.body.id}`);
        if (body.state === 'done') return body.dataset;
        expect(body.state).toBe('loading');
        await new Promise((go) => setTimeout(go, 15));
      }
    },
    /** Gives, or takes, what somebody may do. */
    give: (by: string, kind: string, id: string, who: string, role: string | null) =>
      as(by, 'PUT', `/api/${kind}s/${id}/rights`, { grantee: ids[who] ?? who, role }),
  };
}

export type TeamApp = Awaited<ReturnType<typeof teamApp>>;
