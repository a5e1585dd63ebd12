import { Agent, get } from 'node:http';
import type { StartedServer } from './server';
import { median, quantile, rounded } from './statistics';

const viewers = 500;
const seconds = 60;
/** A viewer does something every so often, ms. */
const pause = 4000;
/** One in so many moves is asked of the rows; the others ask for what is kept. */
const askedEvery = 10;

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/**
 * Viewers who open a show, and then move filters: of charts that hold all that levers filter by, which ask for nothing
 * new, and of charts that ask per move. Times are to the last byte, in the sender, which shares the machine.
 */
export async function viewersBench(server: StartedServer, dataset: string) {
  const agent = new Agent({ keepAlive: true, maxSockets: 64 });
  const [board] = await (await fetch(`${server.url}/api/boards`)).json();
  const { version } = await (await fetch(`${server.url}/api/datasets/${dataset}`)).json();
  const kept: number[] = [];
  const asked: number[] = [];
  let failures = 0;
  const ask = (path: string, times: number[]) =>
    new Promise<void>((done) => {
      const started = performance.now();
      const failed = () => {
        failures++;
        done();
      };
      get(`${server.url}${path}`, { agent, headers: { 'accept-encoding': 'gzip' } }, (response) => {
        if (response.statusCode !== 200) return failed();
        response.resume();
        response.on('end', () => {
          times.push(performance.now() - started);
          done();
        });
      }).on('error', failed);
    });
  const cube = (...more: string[]) =>
    `/api/datasets/${dataset}/cube?${[`version=${version}`, 'aggregate=sum.passengers', ...more].join('&')}`;
  const show = [
    `/show/${board.id}`,
    `/api/boards/${board.id}/shown`,
    `/api/datasets/${dataset}`,
    cube('key=route', 'key=date.year'),
    cube('key=date.month', 'key=route'),
  ];
  for (const path of show) await ask(path, []);
  const until = performance.now() + seconds * 1000;
  let moves = 0;
  await Promise.all(
    Array.from({ length: viewers }, async (_, viewer) => {
      await wait((viewer / viewers) * pause);
      for (const path of show) await ask(path, kept);
      while (performance.now() < until) {
        await wait(pause * (0.5 + Math.random()));
        if (++moves % askedEvery) await ask(show[3 + (moves % 2)]!, kept);
        else {
          const low = Math.floor(Math.random() * 100);
          const keep = { field: 'passengers', ranges: [[low, low + 100 + moves]] };
          await ask(cube('key=date.month', `keep=${encodeURIComponent(JSON.stringify(keep))}`), asked);
        }
      }
    }),
  );
  agent.destroy();
  return {
    viewers,
    seconds,
    kept: kept.length,
    keptMedianMs: rounded(median(kept), 1),
    keptP95Ms: rounded(quantile(kept, 0.95), 1),
    asked: asked.length,
    askedMedianMs: rounded(median(asked), 1),
    askedP95Ms: rounded(quantile(asked, 0.95), 1),
    failures,
  };
}
