/** Parts of up to so many characters are written again instead. */
const short = 80;

/**
 * SQL that needs a part several times, or that the database writes out so (`BETWEEN`, `IN`). A long part is computed
 * by itself and named, since each time that it were written again would double what is nested in it. Where one is
 * named inside of another, they need two names.
 */
export function once(part: string, body: (part: string) => string, name = 'once'): string {
  if (part.length <= short) return body(part);
  // No field has such a key: what stands beside the part still finds its own. OFFSET keeps the planner from putting
  // the part back into each of its places.
  const named = `${name}."="`;
  return `(SELECT ${body(named)} FROM (SELECT ${part} OFFSET 0) AS ${name}("="))`;
}
