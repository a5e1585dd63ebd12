// Draws the page of a show, in a thread of its own: what is drawn is what the page's own program draws.
import type { Answered, Asked, DrawnShow, DrawOrder } from '@sorvik/core/board/drawn-show';
import { stage } from './environment';

// The packages of the page look at once whether they are in a browser: they are loaded when there is one.
const { drawShow } = (await import(new URL('./show-draw.js', import.meta.url).href)) as {
  drawShow(id: string): Promise<DrawnShow | null>;
};

/** The end of a channel, as Node has it. */
interface Port {
  on(event: 'message', heard: (answered: Answered) => void): void;
  postMessage(asked: Asked): void;
  close(): void;
}

/** Draws a show. Null where it cannot be drawn as it is: then the page draws itself, as it would. */
export default async function draw({
  board,
  search,
  room,
  port,
}: DrawOrder & { port: Port }): Promise<DrawnShow | null> {
  const waiting = new Map<number, (answered: Answered) => void>();
  let count = 0;
  let isWhole = true;
  port.on('message', (answered: Answered) => waiting.get(answered.number)?.(answered));
  stage.room = room;
  stage.answer = async (request) => {
    const number = ++count;
    const { pathname, search: query } = new URL(request.url);
    const body = request.method === 'GET' ? null : await request.text();
    const {
      status,
      type,
      body: bytes,
    } = await new Promise<Answered>((answer) => {
      waiting.set(number, answer);
      port.postMessage({ number, path: `${pathname}${query}`, method: request.method, body } satisfies Asked);
    });
    if (status >= 400) isWhole = false;
    return new Response(status === 204 ? null : (bytes as Uint8Array<ArrayBuffer>), {
      status,
      headers: { 'content-type': type },
    });
  };
  Object.assign(location, { pathname: `/show/${encodeURIComponent(board)}`, search });
  try {
    const drawn = await drawShow(board);
    return isWhole ? drawn : null;
  } finally {
    port.close();
  }
}
