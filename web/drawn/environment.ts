// What a page finds in a browser, for a thread of the server that draws one: a document, and a window of a size that its
// room says. There is no layout: what asks how large it is, is told what a browser has kept of it.
import type { ShowRoom } from '@sorvik/core/board/show-room';
import * as dom from 'linkedom';
import { plotRoom } from './plot-room';

/** What is drawn now. */
export const stage = {
  room: { width: 1280, height: 800, ground: 'light', plots: {} } as ShowRoom,
  /** Answers a request of the page. */
  answer: (_request: Request): Promise<Response> => Promise.reject(new Error('nothing is drawn')),
};

/** Addresses in a page are of the server that it came from; it is asked by no network. */
const base = 'http://drawn.invalid';

const { document, window } = dom.parseHTML('<html><head></head><body></body></html>');

const later = (act: () => void) => void setTimeout(act, 0);

class Sizes {
  constructor(private readonly told: (entries: { target: Element; contentRect: object }[]) => void) {}
  observe(target: Element) {
    later(() => this.told([{ target, contentRect: plotRoom(target, stage.room) }]));
  }
  unobserve() {}
  disconnect() {}
}

/** Everything is in sight. */
class Sight {
  constructor(private readonly told: (entries: { target: Element; isIntersecting: boolean }[]) => void) {}
  observe(target: Element) {
    later(() => this.told([{ target, isIntersecting: true }]));
  }
  unobserve() {}
  disconnect() {}
}

/** Nothing changes while a page is drawn. */
class Silent {
  addEventListener() {}
  removeEventListener() {}
  observe() {}
  disconnect() {}
  close() {}
}

/** A media query of the kinds that pages ask. */
function matches(query: string): boolean {
  const { width, ground } = stage.room;
  return query.split(',').some((each) => {
    const [, most] = /\(max-width: (\d+)px\)/.exec(each) ?? [];
    if (most) return width <= Number(most);
    return /prefers-color-scheme: dark/.test(each) && ground === 'dark';
  });
}

class PageRequest extends Request {
  constructor(asked: RequestInfo | URL, init?: RequestInit) {
    super(typeof asked === 'string' ? new URL(asked, base) : asked, init);
  }
}

/** What the viewer has kept: the ground. */
const kept = {
  getItem: (name: string) => (name === 'sorvik-ground' ? stage.room.ground : null),
  setItem() {},
  removeItem() {},
};

/** The classes of elements, for whatever asks what one is. */
const elements = Object.entries(dom).filter(([name]) => /^(HTML|SVG)\w*Element$/.test(name));

const globals: Record<string, unknown> = {
  ...Object.fromEntries(elements),
  window: globalThis,
  self: globalThis,
  document,
  location: {
    pathname: '/',
    search: '',
    hash: '',
    href: `${base}/`,
    origin: base,
    host: 'drawn.invalid',
    protocol: 'http:',
  },
  history: { state: null, length: 1, pushState() {}, replaceState() {} },
  navigator: { userAgent: 'drawn', language: 'en' },
  localStorage: kept,
  sessionStorage: { getItem: () => null, setItem() {}, removeItem() {} },
  Element: window.Element,
  HTMLIFrameElement: class {},
  Node: window.Node,
  ResizeObserver: Sizes,
  IntersectionObserver: Sight,
  MutationObserver: Silent,
  EventSource: Silent,
  matchMedia: (query: string) => Object.assign(new Silent(), { matches: matches(query) }),
  getComputedStyle: () => ({ getPropertyValue: () => '' }),
  requestAnimationFrame: (act: (now: number) => void) => setTimeout(() => act(performance.now()), 0),
  cancelAnimationFrame: clearTimeout,
  addEventListener() {},
  removeEventListener() {},
  Request: PageRequest,
  fetch: (asked: RequestInfo, init?: RequestInit) => stage.answer(new PageRequest(asked, init)),
};
for (const [name, value] of Object.entries(globals))
  Object.defineProperty(globalThis, name, { value, configurable: true, writable: true });
