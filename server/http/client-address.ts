import type { IncomingMessage } from 'node:http';
import { BlockList, isIP } from 'node:net';
import type { Context } from 'hono';

/** A list of addresses and of ranges, `10.0.0.0/8`. Throws where one is none. */
export function addressList(list: readonly string[]): BlockList {
  const found = new BlockList();
  for (const each of list) {
    const [address = '', bits] = each.split('/');
    const family = isIP(address) === 6 ? 'ipv6' : 'ipv4';
    if (!isIP(address)) throw new Error(`"${each}" is no address.`);
    if (bits === undefined) found.addAddress(address, family);
    else found.addSubnet(address, Number(bits), family);
  }
  return found;
}

const plain = (address: string) => address.replace(/^::ffff:/, '');
const isIn = (list: BlockList, address: string) =>
  isIP(address) > 0 && list.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4');

/**
 * Where a request comes from. What `X-Forwarded-For` says is only believed of proxies that are trusted: the last address in it
 * that is none of them.
 */
export const clientAddress =
  (trusted: BlockList) =>
  (c: Context): string => {
    const incoming = (c.env as { incoming?: IncomingMessage } | undefined)?.incoming;
    const own = plain(incoming?.socket.remoteAddress ?? '');
    if (!isIn(trusted, own)) return own;
    const told = (c.req.header('x-forwarded-for') ?? '').split(',').map((each) => plain(each.trim()));
    return told.reverse().find((each) => isIP(each) && !isIn(trusted, each)) ?? own;
  };
