import { lookup as dnsLookup, type LookupAddress } from 'node:dns';
import http, { type IncomingMessage } from 'node:http';
import https from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { basename } from 'node:path';
import ipaddr from 'ipaddr.js';
import { UnusableFile } from '../../imports/inspect';
import { tell } from '../../tell';
import { digesting } from './digesting';
import type { Fetched, Known, Origin } from './origin';

/** Where files may be fetched from besides the public internet: hosts with their ports, or any of the own network. */
export interface AllowedAddresses {
  private: boolean;
  hosts: readonly string[];
}

const mostRedirects = 5;
/** So long an address may say nothing, and may take as a whole, ms. */
interface Patience {
  silent: number;
  longest: number;
}
const usual: Patience = { silent: 30_000, longest: 20 * 60_000 };

/** Whether an address of a network is one that everybody reaches: not this machine, not a network of its own. */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  return parsed.range() === 'unicast';
}

const refused = (host: string) => new UnusableFile(tell('address.notPublic', { host }));

/** Looks a name up and keeps to addresses that may be reached: what was looked at is what is connected to. */
const guardedLookup =
  (allowed: boolean): LookupFunction =>
  (host, options, done) => {
    dnsLookup(host, { ...options, all: true }, (error, found: LookupAddress[]) => {
      if (error) return done(error, '', 4);
      const usable = allowed ? found : found.filter(({ address }) => isPublic(address));
      const [first] = usable;
      if (!first) return done(refused(host), '', 4);
      if (options.all) return (done as unknown as (error: null, all: LookupAddress[]) => void)(null, usable);
      return done(null, first.address, first.family);
    });
  };

/** The address as it is asked, or a sentence about what is wrong with it. */
export function readAddress(text: string): URL {
  if (!URL.canParse(text)) throw new UnusableFile(tell('address.isNone', { text: text.slice(0, 200) }));
  const url = new URL(text);
  if (url.protocol !== 'https:' && url.protocol !== 'http:') throw new UnusableFile(tell('address.onlyHttp'));
  if (url.username || url.password) throw new UnusableFile(tell('address.noPassword'));
  return url;
}

function ask(
  url: URL,
  known: Known | null,
  allowed: AllowedAddresses,
  signal: AbortSignal,
  silent: number,
): Promise<IncomingMessage> {
  const port = url.port || (url.protocol === 'https:' ? '443' : '80');
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const free = allowed.private || allowed.hosts.includes(`${host}:${port}`);
  // A number is not looked up: it is looked at here.
  if (isIP(host) && !free && !isPublic(host)) return Promise.reject(refused(host));
  const headers: Record<string, string> = {
    'user-agent': 'Sorvik',
    accept: '*/*',
    'accept-encoding': 'identity',
  };
  if (known?.etag) headers['if-none-match'] = known.etag;
  else if (known?.modified) headers['if-modified-since'] = known.modified;
  const { request } = url.protocol === 'https:' ? https : http;
  return new Promise((resolve, reject) => {
    const asked = request(
      url,
      { headers, lookup: guardedLookup(free), signal, timeout: silent, agent: false },
      resolve,
    );
    asked.on('timeout', () =>
      asked.destroy(new UnusableFile(tell('address.silent', { host, n: silent / 1000 }))),
    );
    asked.on('error', (error: NodeJS.ErrnoException) =>
      reject(
        error instanceof UnusableFile || signal.aborted
          ? error
          : new UnusableFile(tell('address.notReached', { host, why: error.code ?? error.message })),
      ),
    );
    asked.end();
  });
}

/**
 * Fetches what lies at an address, unless it says that nothing has changed. Redirects are followed to places that may be
 * reached, and to no others. Throws `UnusableFile` with a sentence where it cannot be had.
 */
export async function fetchAddress(
  text: string,
  known: Known | null,
  allowed: AllowedAddresses,
  signal: AbortSignal,
  patience: Patience = usual,
): Promise<Fetched> {
  const { silent, longest } = patience;
  const all = AbortSignal.any([signal, AbortSignal.timeout(longest)]);
  const tooSlow = () =>
    all.aborted && !signal.aborted
      ? new UnusableFile(tell('address.tooSlow', { n: longest / 60_000 }))
      : undefined;
  let url = readAddress(text);
  for (let redirects = 0; ; redirects++) {
    const answer = await ask(url, known, allowed, all, silent).catch((error) => {
      throw tooSlow() ?? error;
    });
    const { statusCode = 0, headers } = answer;
    const etag = headers.etag ?? null;
    const modified = headers['last-modified'] ?? null;
    if (statusCode === 304 && known) {
      answer.resume();
      return { ...known, name: '', body: null };
    }
    if (statusCode >= 300 && statusCode < 400 && headers.location) {
      answer.resume();
      if (redirects === mostRedirects) throw new UnusableFile(tell('address.tooManyRedirects'));
      url = readAddress(new URL(headers.location, url).href);
      continue;
    }
    if (statusCode !== 200) {
      answer.resume();
      throw new UnusableFile(tell('address.answered', { host: url.host, status: statusCode }));
    }
    const body = digesting();
    answer.setTimeout(silent, () =>
      answer.destroy(new UnusableFile(tell('address.silent', { host: url.host, n: silent / 1000 }))),
    );
    answer.on('error', (error) =>
      body.destroy(
        error instanceof UnusableFile
          ? error
          : (tooSlow() ?? new UnusableFile(tell('address.brokeOff', { host: url.host }))),
      ),
    );
    body.on('close', () => {
      answer.destroy();
    });
    answer.pipe(body);
    const named = /filename="?([^";]+)/i.exec(headers['content-disposition'] ?? '')?.[1];
    const name = (named ?? decodeURIComponent(basename(url.pathname))) || url.host;
    return { name: name.slice(0, 200), etag, modified, digest: null, body };
  }
}

/** What lies at an address of the internet, or of the own network as far as that is allowed. */
export const addressOrigin = (allowed: AllowedAddresses): Origin => ({
  isMine: () => true,
  async check(text) {
    readAddress(text);
  },
  fetch: (text, known, signal) => fetchAddress(text, known, allowed, signal),
});
