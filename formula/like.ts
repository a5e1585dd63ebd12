const known = new Map<string, RegExp>();
const mostKnown = 200;

/**
 * A LIKE pattern: % is any text, _ any one letter, and a backslash takes their meaning away. Null for one that ends in a
 * backslash, which takes the meaning of nothing away.
 */
export function likePattern(pattern: string): RegExp | null {
  const found = known.get(pattern);
  if (found) return found;
  let source = '';
  const letters = [...pattern];
  for (let i = 0; i < letters.length; i++) {
    const escaped = letters[i] === '\\' && i + 1 < letters.length;
    if (!escaped && letters[i] === '\\') return null;
    const letter = escaped ? letters[++i]! : letters[i]!;
    if (!escaped && letter === '%') source += '.*';
    else if (!escaped && letter === '_') source += '.';
    else source += letter.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');
  }
  const made = new RegExp(`^${source}$`, 'su');
  if (known.size >= mostKnown) known.clear();
  known.set(pattern, made);
  return made;
}
