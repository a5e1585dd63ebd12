import * as client from 'openid-client';

/** How people sign in at a provider of identities (OpenID Connect Core 1.0). */
export interface OpenIdOptions {
  issuer: URL;
  client: string;
  secret: string;
  /** The claim with the names of a person's groups. */
  groups: string;
  /** What the provider is called on the page to sign in. */
  name: string;
}

/** What was said when somebody set out to sign in: only whoever set out comes back with it. */
export interface SetOut {
  state: string;
  nonce: string;
  verifier: string;
}

/** Who somebody is, as the provider says. */
export interface Identity {
  issuer: string;
  subject: string;
  /** null where the provider has not made sure of it. */
  email: string | null;
  name: string;
  /** null where nothing is said of groups. */
  groups: string[] | null;
}

const loopback = ['localhost', '127.0.0.1', '[::1]'];
const mostGroups = 200;
const longestName = 100;

const textOf = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');

/** The provider could not be reached, or did not vouch for whoever came back. */
export class NotVouched extends Error {}

/** Signs people in at a provider: authorization code with PKCE (RFC 7636), state and nonce. */
export class OpenId {
  private found: Promise<client.Configuration> | null = null;

  constructor(
    private readonly options: OpenIdOptions,
    /** Where people come back to. */
    private readonly back: URL,
  ) {}

  get name(): string {
    return this.options.name;
  }

  /** What the provider says of itself; asked again where it could not be reached. */
  private configuration(): Promise<client.Configuration> {
    const { issuer, client: id, secret } = this.options;
    const plain = issuer.protocol === 'http:' && loopback.includes(issuer.hostname);
    this.found ??= client.discovery(issuer, id, secret, client.ClientSecretBasic(secret), {
      timeout: 10,
      ...(plain ? { execute: [client.allowInsecureRequests] } : {}),
    });
    this.found.catch(() => {
      this.found = null;
    });
    return this.found;
  }

  /** Where somebody goes to sign in, and what they come back with. */
  async setOut(): Promise<{ address: string; setOut: SetOut }> {
    const configuration = await this.configuration().catch((error) => {
      throw new NotVouched('provider-not-reached', { cause: error });
    });
    const verifier = client.randomPKCECodeVerifier();
    const setOut = { state: client.randomState(), nonce: client.randomNonce(), verifier };
    const address = client.buildAuthorizationUrl(configuration, {
      redirect_uri: this.back.href,
      scope: ['openid', 'email', 'profile'].join(' '),
      code_challenge: await client.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
      state: setOut.state,
      nonce: setOut.nonce,
    });
    return { address: address.href, setOut };
  }

  /** Who came back; `search` is what the provider put behind the address. Throws `NotVouched`. */
  async whoCame(search: string, { state, nonce, verifier }: SetOut): Promise<Identity> {
    try {
      const configuration = await this.configuration();
      const came = new URL(this.back);
      came.search = search;
      const answer = await client.authorizationCodeGrant(configuration, came, {
        pkceCodeVerifier: verifier,
        expectedState: state,
        expectedNonce: nonce,
        idTokenExpected: true,
      });
      const claims = answer.claims()!;
      const more = configuration.serverMetadata().userinfo_endpoint
        ? await client.fetchUserInfo(configuration, answer.access_token, claims.sub)
        : {};
      return this.identityOf({ ...claims, ...more, iss: claims.iss, sub: claims.sub });
    } catch (error) {
      throw new NotVouched('not-vouched-for', { cause: error });
    }
  }

  private identityOf(claims: Record<string, unknown> & { iss: string; sub: string }): Identity {
    const email = textOf(claims.email);
    const groups = claims[this.options.groups];
    return {
      issuer: claims.iss,
      subject: claims.sub,
      email: email && claims.email_verified === true ? email.slice(0, 254) : null,
      name: (
        textOf(claims.name) ||
        textOf(claims.preferred_username) ||
        email.split('@')[0] ||
        claims.sub
      ).slice(0, longestName),
      groups: Array.isArray(groups)
        ? [...new Set(groups.map(textOf).filter((name) => name && name.length <= longestName))].slice(
            0,
            mostGroups,
          )
        : null,
    };
  }
}
