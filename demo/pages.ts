import { readFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { basename, extname, join } from 'node:path';

// A stand-in for a website of somebody else, on an origin of its own, that shows charts of a server.

const types: Readonly<Record<string, string>> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
};

export interface Pages {
  origin: string;
  close(): Promise<void>;
}

/**
 * Serves the pages of a folder at a port of this machine, or at any free one where that is taken; `{{sorvik}}` in them stands
 * for the address of the server. They are as strict about what they load as a careful website is.
 */
export async function startPages(folder: string, sorvik: string, port: number): Promise<Pages> {
  const policy = [
    "default-src 'none'",
    `script-src 'self' ${sorvik}`,
    `connect-src 'self' ${sorvik}`,
    `frame-src ${sorvik}`,
    `img-src 'self' ${sorvik} data:`,
    "style-src 'self'",
  ].join('; ');
  const server = createServer(async (request, response) => {
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
  });
  const listen = (at: number) =>
    new Promise<void>((done, fail) => {
      server.once('error', fail);
      server.listen(at, '127.0.0.1', () => {
        server.off('error', fail);
        done();
      });
    });
  await listen(port).catch(() => listen(0));
  return {
    origin: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () =>
      new Promise((done) => {
        server.close(() => done());
        server.closeAllConnections();
      }),
  };
}
