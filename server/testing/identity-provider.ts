import { generateKeyPairSync } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Provider } from 'oidc-provider';

/** What somebody is for the provider. */
export interface TestAccount {
  email: string;
  email_verified: boolean;
  name: string;
  groups?: string[];
}

export const testClient = { id: 'sorvik', secret: 'a secret of forty letters or some more of them' };

/** A real provider of identities on the loopback address; whoever comes signs in as `account.who` says. */
export async function identityProvider(back: string) {
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const accounts: Record<string, TestAccount> = {};
  const account = { who: '' };
  let answer: (request: IncomingMessage, response: ServerResponse) => void = (_, response) => response.end();
  const server = createServer((request, response) => answer(request, response));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const provider = new Provider(issuer, {
    clients: [
      {
        client_id: testClient.id,
        client_secret: testClient.secret,
        redirect_uris: [back],
        response_types: ['code'],
        grant_types: ['authorization_code'],
      },
    ],
    claims: { openid: ['sub'], email: ['email', 'email_verified'], profile: ['name', 'groups'] },
    pkce: { required: () => true },
    features: { devInteractions: { enabled: false } },
    interactions: { url: (_, { uid }) => `/interaction/${uid}` },
    cookies: { keys: ['for tests alone'] },
    jwks: { keys: [{ ...privateKey.export({ format: 'jwk' }), alg: 'RS256', use: 'sig' }] },
    ttl: { Interaction: 600, Grant: 600, Session: 600, AccessToken: 600, IdToken: 600 },
    findAccount: (_, id) => ({
      accountId: id,
      claims: async () => ({ sub: id, ...accounts[id] }),
    }),
    async loadExistingGrant(context) {
      const grant = new context.oidc.provider.Grant({
        clientId: context.oidc.client!.clientId,
        accountId: context.oidc.session!.accountId!,
      });
      grant.addOIDCScope('openid email profile');
      await grant.save();
      return grant;
    },
  });
  const own = provider.callback();
  answer = (request, response) => {
    if (request.url?.startsWith('/interaction/'))
      void provider.interactionFinished(request, response, { login: { accountId: account.who } });
    else void own(request, response);
  };
  return {
    issuer: new URL(issuer),
    accounts,
    account,
    close: () =>
      new Promise<void>((done) => {
        server.close(() => done());
        server.closeAllConnections();
      }),
  };
}

/** Goes where a browser would be sent, from an address of the provider, until it is sent back to `back`; what stands behind that. */
export async function signInAt(address: string, back: string): Promise<string> {
  const jar = new Map<string, string>();
  for (let next = address; ; ) {
    if (next.startsWith(back)) return new URL(next).search;
    const response = await fetch(next, {
      redirect: 'manual',
      headers: { cookie: [...jar].map(([name, value]) => `${name}=${value}`).join('; ') },
    });
    for (const set of response.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!;
      if (value) jar.set(name!, value);
      else jar.delete(name!);
    }
    const to = response.headers.get('location');
    if (!to) throw new Error(`${response.status} ${await response.text()}`);
    next = new URL(to, next).href;
  }
}
