import { leverPrefix } from './picture-address';

/** What the address of a show says besides where levers stand. */
export interface ShowAddress {
  /** The link by which whoever has the address may see the board. */
  link: string | null;
  /** Whether it is in a frame on a page elsewhere. */
  embedded: boolean;
  /** In a frame: the ground and the language that the page around it wants. */
  theme: string | null;
  lang: string | null;
  /** Where levers stand, as in any address of a show. */
  levers: URLSearchParams;
}

/** The name under which the page of a show in a frame says on pages of which origins it may be (`meta`). */
export const framersName = 'sorvik-pages';

/** What a link has in its address (43 letters for 256 bits); anything shorter is where a lever of that name stands. */
const token = /^[\w-]{43}$/;

/**
 * Reads the query of a show's address: `count=5&link=..`, in a frame `embed&theme=dark&count=5`. There a lever that is called
 * as one of these words is named with `lever.` before it.
 */
export function showAddress(query: URLSearchParams): ShowAddress {
  const given = query.get('link');
  const link = given !== null && token.test(given) ? given : null;
  const embedded = query.get('embed') === '';
  const own = new Set([
    ...(link === null ? [] : ['link']),
    ...(embedded ? ['link', 'embed', 'theme', 'lang'] : []),
  ]);
  const levers = new URLSearchParams();
  for (const [name, value] of query) {
    if (own.has(name)) continue;
    levers.append(embedded && name.startsWith(leverPrefix) ? name.slice(leverPrefix.length) : name, value);
  }
  const wanted = (name: string) => (embedded ? query.get(name) || null : null);
  return { link, embedded, theme: wanted('theme'), lang: wanted('lang'), levers };
}

/** The query of a show where levers stand as `levers` says, for whoever has come by a link. */
export function showQuery(levers: URLSearchParams, { link }: Pick<ShowAddress, 'link'>): URLSearchParams {
  return link === null ? levers : new URLSearchParams([['link', link], ...levers]);
}
