import { Agent, get } from 'node:http';
import type { StartedServer } from './server';

const connections = 32;
const seconds = 3;

/** Answers a second to one request, sent over and over by several connections at once. */
async function perSecond(url: string): Promise<number> {
  const agent = new Agent({ keepAlive: true, maxSockets: connections });
  const once = () =>
    new Promise<void>((done, fail) => {
      get(url, { agent, headers: { 'accept-encoding': 'gzip' } }, (response) => {
        if (response.statusCode !== 200) fail(new Error(`${url}: ${response.statusCode}`));
        response.resume();
        response.on('end', done);
      }).on('error', fail);
    });
  await once();
  const until = performance.now() + seconds * 1000;
  let count = 0;
  await Promise.all(
    Array.from({ length: connections }, async () => {
      while (performance.now() < until) {
        await once();
        count++;
      }
    }),
  );
  agent.destroy();
  return Math.round(count / seconds);
}

/** What many viewers ask at once: a dataset, a board, a cube that is kept. The sender takes its share of the machine. */
export async function requestsBench(server: StartedServer) {
  const [dataset] = await (await fetch(`${server.url}/api/datasets`)).json();
  const [board] = await (await fetch(`${server.url}/api/boards`)).json();
  return {
    dataset: await perSecond(`${server.url}/api/datasets/${dataset.id}`),
    board: await perSecond(`${server.url}/api/boards/${board.id}/shown`),
    cube: await perSecond(
      `${server.url}/api/datasets/${dataset.id}/cube?version=${dataset.version}&key=route&key=date.year&aggregate=sum.passengers`,
    ),
  };
}
