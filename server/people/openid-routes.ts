import { IsString, MaxLength } from 'class-validator';
import type { Context } from 'hono';
import { deleteCookie, getCookie } from 'hono/cookie';
import type { Audit } from '../access/audit';
import type { Database } from '../db/client';
import { keepInBrowser } from '../http/own-cookie';
import { HttpProblem } from '../http/problem';
import type { Routes } from '../http/routes';
import { ref } from '../http/schemas';
import { tell } from '../tell';
import { letIn } from './identities';
import { NotVouched, type OpenId, type SetOut } from './openid';
import type { Person } from './sessions';

class BackInput {
  /** What stands behind the address that the provider sent the browser to. */
  @IsString()
  @MaxLength(8000)
  search!: string;
}

/** So long somebody has to sign in at the provider, s. */
const patience = 600;

export interface OpenIdParts {
  openId: OpenId | null;
  database: Database;
  audit: Audit;
  secure: boolean;
  /** Begins a session; sets its cookie. */
  begin(c: Context, person: Person): Promise<void>;
}

/** What is kept in the browser of whoever has set out; null for what is none. */
function setOutOf(text: string | undefined): SetOut | null {
  try {
    const found = JSON.parse(Buffer.from(text ?? '', 'base64url').toString()) as Partial<SetOut>;
    const { state, nonce, verifier } = found;
    return typeof state === 'string' && typeof nonce === 'string' && typeof verifier === 'string'
      ? { state, nonce, verifier }
      : null;
  } catch {
    return null;
  }
}

/** Signing in at a provider of identities. */
export function addOpenIdRoutes(
  routes: Routes,
  { openId, database, audit, secure, begin }: OpenIdParts,
): void {
  const cookie = secure ? '__Host-sorvik-set-out' : 'sorvik-set-out';
  const needOpenId = () => {
    if (!openId) throw new HttpProblem(404, 'not-found', tell('people.noProvider'));
    return openId;
  };
  routes
    .add(
      {
        method: 'post',
        path: '/api/sign-in/provider',
        needs: 'nothing',
        summary: 'Where to sign in at the provider of identities; the answer sets a cookie to come back with',
        stores: false,
        answers: { 200: ref('Provider') },
      },
      async (c) => {
        const { address, setOut } = await needOpenId()
          .setOut()
          .catch((error) => {
            if (!(error instanceof NotVouched)) throw error;
            throw new HttpProblem(
              502,
              'source-not-reached',
              tell('people.providerAway', { name: openId!.name }),
            );
          });
        const kept = Buffer.from(JSON.stringify(setOut)).toString('base64url');
        keepInBrowser(c, cookie, kept, { secure, seconds: patience });
        return c.json({ address });
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/sign-in/provider/back',
        needs: 'nothing',
        summary: 'Come back from the provider of identities; the answer sets a cookie',
        stores: false,
        body: BackInput,
        answers: { 200: ref('Me') },
      },
      async (c, { body }) => {
        const provider = needOpenId();
        const setOut = setOutOf(getCookie(c, cookie));
        // What was set out with is of use once.
        deleteCookie(c, cookie, { path: '/', secure });
        const refuse = async (why: string): Promise<never> => {
          await audit.note(c, { action: 'sign-in-refused', detail: { by: provider.name, why }, by: null });
          throw new HttpProblem(401, 'not-vouched', tell('people.notVouched', { name: provider.name }));
        };
        if (!setOut) return refuse('set-out');
        const identity = await provider.whoCame(body.search, setOut).catch((error) => {
          if (error instanceof NotVouched) return null;
          throw error;
        });
        if (!identity) return refuse('provider');
        const person = await letIn(database, identity).catch(async (error) => {
          if (error instanceof HttpProblem)
            await audit.note(c, {
              action: 'sign-in-refused',
              detail: { by: provider.name, email: identity.email },
              by: null,
            });
          throw error;
        });
        await begin(c, person);
        await audit.note(c, { action: 'signed-in', detail: { by: provider.name }, by: person });
        const { id, email, name, owner } = person;
        return c.json({ team: true, person: { id, email, name, owner } });
      },
    );
}
