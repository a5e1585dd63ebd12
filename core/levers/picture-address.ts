/** What a picture's address says of how it is wanted; all else in it are levers. */
export const pictureWords = [
  'width',
  'height',
  'theme',
  'scale',
  'lang',
  'caption',
  'link',
  'paper',
  'orientation',
] as const;

/** Begins the name of a lever that is called as one of these words. */
export const leverPrefix = 'lever.';

const isWord = (name: string): boolean => (pictureWords as readonly string[]).includes(name);

/** The path of a picture of a chart, or of a whole board, where its levers stand as a query says it (`positionsToQuery`). */
export function pictureAddress(
  { board, chart, format }: { board: string; chart?: string; format: string },
  positions: URLSearchParams,
): string {
  const query = new URLSearchParams();
  for (const [name, value] of positions) query.append(isWord(name) ? `${leverPrefix}${name}` : name, value);
  const said = query.toString();
  const of = chart === undefined ? '' : `/${encodeURIComponent(chart)}`;
  return `/pictures/${encodeURIComponent(board)}${of}.${format}${said && `?${said}`}`;
}
