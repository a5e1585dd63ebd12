import type { ConnectionInput } from '../connections/connections';

/** What a form for another database says of an address. */
export function connectionTo(address: string): ConnectionInput {
  const { hostname, port, pathname, username, password } = new URL(address);
  return {
    name: 'Harbour office',
    host: hostname,
    port: Number(port),
    database: pathname.slice(1),
    user: decodeURIComponent(username),
    password: decodeURIComponent(password),
    tls: 'off',
    authority: null,
    seconds: 30,
    most: 4,
  };
}
