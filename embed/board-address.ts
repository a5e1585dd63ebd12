import { showAddress } from '@sorvik/core/levers/show-address';

/** What an address in `src` names: a board on a server, and a chart or a lever of it. */
export interface BoardAddress {
  /** The origin of the server. */
  server: string;
  board: string;
  /** The id of the chart or the lever; empty where it names none. */
  part: string;
  /** The link that lets whoever has it see the board. */
  link: string | null;
  /** Where levers stand at first. */
  positions: URLSearchParams;
}

/**
 * Reads the address of a show with a chart or a lever after it: `https://boards.example/show/routes?count=5&link=..#by-route`.
 * Null where it is none.
 */
export function boardAddress(src: string, base: string): BoardAddress | null {
  if (!URL.canParse(src, base)) return null;
  const url = new URL(src, base);
  const [, board] = /^\/show\/([^/]+)\/?$/.exec(url.pathname) ?? [];
  if (!board || !/^https?:$/.test(url.protocol)) return null;
  const { link, levers } = showAddress(url.searchParams);
  return {
    server: url.origin,
    board: decodeURIComponent(board),
    part: decodeURIComponent(url.hash.slice(1)),
    link,
    positions: levers,
  };
}
