import type { StartedServer } from './server';
import { median, rounded } from './statistics';

/** So many are asked for at a time, and for so long, s. */
const atOnce = 4;
const seconds = 5;

/** Pictures a second of a chart of fourteen bars, each of another size, so that every one is drawn; and how long one takes alone. */
async function drawn(server: StartedServer, format: 'svg' | 'png') {
  const address = `${server.url}/pictures/which-routes-carry-the-sound/by-route.${format}`;
  let width = 400;
  const one = async () => {
    const response = await fetch(`${address}?width=${width++}`);
    await response.arrayBuffer();
    if (!response.ok) throw new Error(`${address}: ${response.status}`);
  };
  // The threads and their fonts are there.
  await Promise.all(Array.from({ length: atOnce }, one));
  const alone: number[] = [];
  for (let turn = 0; turn < 20; turn++) {
    const began = performance.now();
    await one();
    alone.push(performance.now() - began);
  }
  const until = performance.now() + seconds * 1000;
  let count = 0;
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      while (performance.now() < until) {
        await one();
        count++;
      }
    }),
  );
  return { perSecond: Math.round(count / seconds), aloneMs: rounded(median(alone), 0) };
}

/** Pictures by address, drawn on the server. */
export const picturesBench = async (server: StartedServer) => ({
  svg: await drawn(server, 'svg'),
  png: await drawn(server, 'png'),
});
