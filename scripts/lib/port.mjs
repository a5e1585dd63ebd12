import { createServer } from 'node:net';
import { Refusal } from './say.mjs';

/** Refuses with a way out when something else listens on the port. */
export const ensurePortFree = (port) =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', (error) =>
      reject(
        new Refusal(
          error.code === 'EADDRINUSE'
            ? `Port ${port} is taken by another program. Choose another: npm start -- --port ${port < 65535 ? port + 1 : 4711}`
            : `Port ${port} cannot be used (${error.code}). Choose another: npm start -- --port 4711`,
        ),
      ),
    );
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve()));
  });
