import { leverIdOf } from './lever-names';

/** Texts, quoted names and remarks are passed over; then a lever, after `= ANY (` or by itself. */
const named =
  /'(?:[^']|'')*'|"(?:[^"]|"")*"|--[^\n]*|=\s*ANY\s*\(\s*:([\p{L}_][\p{L}\p{N}_]*)\s*\)|:([\p{L}_][\p{L}\p{N}_]*)(?:\.([a-z]+))?/giu;

const isDay = /^\d{4}-\d\d-\d\d$/;

/** A value as SQL writes it. */
function literal(value: unknown): string {
  if (typeof value === 'number') return value < 0 ? `(${value})` : String(value);
  if (typeof value === 'boolean') return value ? 'TRUE' : 'FALSE';
  if (typeof value !== 'string') return 'NULL';
  const text = `'${value.replaceAll("'", "''")}'`;
  return isDay.test(value) ? `DATE ${text}` : text;
}

/** A formula in which what a lever holds stands in its place; `held` reads a part of it, a list for one of several. */
export const withoutLever = (text: string, id: string, held: (part: string | undefined) => unknown): string =>
  text.replace(named, (all: string, list: string | undefined, one: string | undefined, part?: string) => {
    if (list !== undefined && leverIdOf(list) === id) {
      const values = held(undefined);
      const written = (Array.isArray(values) ? values : [values]).map(literal);
      return `IN (${written.join(', ') || 'NULL'})`;
    }
    return one !== undefined && leverIdOf(one) === id ? literal(held(part?.toLowerCase())) : all;
  });
