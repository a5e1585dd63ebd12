import { readFile } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { type LocalServer, localServer } from './local-server';

// A stand-in for a website of somebody else, on an origin of its own, that shows charts of a server.

const types: Readonly<Record<string, string>> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
};

/**
 * Serves the pages of a folder at a port of this machine, or at any free one where that is taken; `{{sorvik}}` in them stands
 * for the address of the server. They are as strict about what they load as a careful website is.
 */
export function startPages(folder: string, sorvik: string, port: number): Promise<LocalServer> {
  const policy = [
    "default-src 'none'",
    `script-src 'self' ${sorvik}`,
    `connect-src 'self' ${sorvik}`,
    `frame-src ${sorvik}`,
    `img-src 'self' ${sorvik} data:`,
    "style-src 'self'",
  ].join('; ');
  return localServer(async (request, response) => {
    const name = basename(new URL(request.url ?? '/', sorvik).pathname) || 'ferries.html';
    const type = types[extname(name)];
    const text = type ? await readFile(join(folder, name), 'utf8').catch(() => null) : null;
    if (text === null) {
      response.writeHead(404).end();
      return;
    }
    response
      .writeHead(200, {
        'content-type': type,
        'content-security-policy': policy,
        'cache-control': 'no-cache',
      })
      .end(text.replaceAll('{{sorvik}}', sorvik));
  }, port);
}
