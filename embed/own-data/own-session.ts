import { BoardSession } from '../board-session';
import type { BoardSource } from '../board-source';

interface Own {
  rows: unknown;
  described: unknown;
  session: BoardSession;
}

const sessions = new WeakMap<Element, Own>();

/** A board of rows in the page. What reads them is fetched with the first ones. */
function ownSource(rows: unknown, described: unknown): BoardSource {
  let made: Promise<Omit<BoardSource, 'follow'>> | undefined;
  const source = () => {
    made ??= import('./own-source').then(({ OwnSource }) => new OwnSource(rows, described));
    return made;
  };
  return {
    board: async () => (await source()).board(),
    dataset: async (id) => (await source()).dataset(id),
    cube: async (...asked) => (await source()).cube(...asked),
    cells: async (...asked) => (await source()).cells(...asked),
    absent: async (...asked) => (await source()).absent(...asked),
    values: async (...asked) => (await source()).values(...asked),
    // Rows change as a whole, when the page gives others.
    follow: () => () => {},
  };
}

/** The session of an element that has rows of its own: the same while rows and description are. */
export function ownSessionOf(of: HTMLElement, rows: unknown, described: unknown): BoardSession {
  const known = sessions.get(of);
  const same = known && JSON.stringify(known.described) === JSON.stringify(described);
  if (same && known.rows === rows) return known.session;
  const session = new BoardSession(ownSource(rows, described), of.getAttribute('lang') ?? undefined);
  if (same) session.takeOver(known.session);
  sessions.set(of, { rows, described, session });
  of.dispatchEvent(new Event(ownSessionBegun));
  return session;
}

/** Told by an element whose rows have come, for the levers that are its own. */
export const ownSessionBegun = 'sorvik:begun';

/** The session of an element with rows of its own; undefined while it has none. */
export const knownSessionOf = (of: Element): BoardSession | undefined => sessions.get(of)?.session;
