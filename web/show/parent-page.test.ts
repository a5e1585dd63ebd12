import { expect, it } from 'vitest';
import { type Heard, heardIn, ParentPage } from './parent-page';

const pages = 'https://pages.example';

/** A frame on a page; what is posted to that page, and what comes from it. */
function frameOn({ named, referrer = '' }: { named?: string; referrer?: string }) {
  const posted: [data: unknown, origin: unknown][] = [];
  const parent = { postMessage: (data: unknown, origin: unknown) => posted.push([data, origin]) };
  let listener: ((event: MessageEvent) => void) | undefined;
  const frame = {
    parent: parent as unknown as Window,
    location: named === undefined ? {} : { ancestorOrigins: [named] },
    document: { referrer },
    addEventListener: (_: string, heard: (event: MessageEvent) => void) => {
      listener = heard;
    },
  };
  const from = (origin: string, data: unknown, source: unknown = parent) =>
    listener?.({ origin, data, source } as MessageEvent);
  return { frame, posted, from };
}
const listening = (where: Parameters<typeof frameOn>[0], origins = [pages]) => {
  const heard: Heard[] = [];
  const on = frameOn(where);
  const page = new ParentPage(on.frame, origins);
  return { ...on, heard, page, end: page.listen((each) => heard.push(each)) };
};

it('speaks with the page around it, by its origin alone', () => {
  for (const where of [{ named: pages }, { referrer: `${pages}/figures?of=1` }]) {
    const { page, posted } = listening(where);
    page.tell('height', { height: 640 });
    expect(posted).toEqual([[{ sorvik: 1, type: 'height', height: 640 }, pages]]);
  }
});

it('says nothing to a page that is not allowed, and hears nothing of it', () => {
  for (const where of [{ named: 'https://elsewhere.example' }, { referrer: 'no address' }, {}]) {
    const { page, posted, from, heard } = listening(where);
    page.tell('lit', { chart: 'a', lit: [] });
    from('https://elsewhere.example', { sorvik: 1, type: 'hello' });
    from(pages, { sorvik: 1, type: 'hello' }, { postMessage() {} });
    expect([posted, heard]).toEqual([[], []]);
  }
  const { page, posted } = listening({ named: pages }, []);
  page.tell('height', { height: 1 });
  expect(posted).toEqual([]);
});

it('where the browser does not say who is around it, it waits for a message, and then says the latest of each', () => {
  const { page, posted, from, heard, end } = listening({});
  page.tell('height', { height: 1 });
  page.tell('lit', { chart: 'a', lit: [1] });
  page.tell('lit', { chart: 'b', lit: [2] });
  page.tell('height', { height: 2 });
  from(pages, { type: 'hello' });
  expect([posted, heard]).toEqual([[], []]);
  from(pages, { sorvik: 1, type: 'hello' });
  expect(heard).toEqual([{ type: 'hello' }]);
  expect(posted.map(([data]) => data)).toEqual([
    { sorvik: 1, type: 'height', height: 2 },
    { sorvik: 1, type: 'lit', chart: 'a', lit: [1] },
    { sorvik: 1, type: 'lit', chart: 'b', lit: [2] },
  ]);
  // While nobody listens, what is heard waits for whoever does.
  end();
  from(pages, { sorvik: 1, type: 'theme', theme: 'dark' });
  expect(heard).toHaveLength(1);
  const later: Heard[] = [];
  page.listen((each) => later.push(each));
  expect(later).toEqual([{ type: 'theme', theme: 'dark' }]);
});

it('reads what is its own, and nothing else', () => {
  const move = { sorvik: 1, type: 'move', positions: { count: 3 } };
  expect(heardIn({ ...move, more: true })).toEqual({ type: 'move', positions: { count: 3 } });
  expect(heardIn({ sorvik: 1, type: 'theme', theme: 'dark' })).toEqual({ type: 'theme', theme: 'dark' });
  for (const other of [
    null,
    'hello',
    [move],
    { ...move, sorvik: 2 },
    { ...move, positions: [3] },
    { ...move, positions: null },
    { sorvik: 1, type: 'theme', theme: 'pink' },
    { sorvik: 1, type: 'other' },
  ])
    expect(heardIn(other)).toBeNull();
});
