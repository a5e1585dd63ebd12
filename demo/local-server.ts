import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';

/** A server on the loopback address of this machine. */
export interface LocalServer {
  origin: string;
  close(): Promise<void>;
}

/** Listens at a port, or at any free one where that is taken or left out. */
export async function localServer(answer: RequestListener, port = 0): Promise<LocalServer> {
  const server = createServer(answer);
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
