import { isIP } from 'node:net';
import { Refusal } from './say.mjs';

/**
 * What is said of a server for a team: `{ host, port, options }`, null where there is none. Refuses what is left out or not meant
 * that way.
 */
export function teamOptions({ team, address, listen, 'trust-proxies': proxies }) {
  if (!team) {
    for (const [name, value] of Object.entries({ address, listen, 'trust-proxies': proxies }))
      if (value !== undefined)
        throw new Refusal(`--${name} is for a server where people sign in: add --team.`);
    return null;
  }
  if (!address || !URL.canParse(address) || !/^https?:$/.test(new URL(address).protocol))
    throw new Refusal('--team needs --address, where people open it: https://boards.example.org');
  const url = new URL(address);
  const own = ['localhost', '127.0.0.1', '[::1]'].includes(url.hostname);
  if (url.protocol === 'http:' && !own)
    throw new Refusal('--address must begin with https: passwords do not go over a network in the clear.');
  const [, host, port] =
    /^(.+):(\d+)$/.exec(listen ?? `127.0.0.1:${own && url.port ? url.port : 4310}`) ?? [];
  if (!host || Number(port) < 1 || Number(port) > 65_535)
    throw new Refusal(`--listen ${listen}: give an address and a port, 0.0.0.0:4310.`);
  const trusted = (proxies ?? '').split(',').filter(Boolean);
  const wrong = trusted.find((each) => !isIP(each.split('/')[0]));
  if (wrong) throw new Refusal(`--trust-proxies: "${wrong}" is no address.`);
  return {
    host: host.replace(/^\[|\]$/g, ''),
    port: Number(port),
    options: { address: url, proxies: trusted },
  };
}
