import { cutText } from '../http/well-formed';
import { tell } from '../tell';

/** Every table has these columns already. */
const systemColumns = ['tableoid', 'xmin', 'cmin', 'xmax', 'cmax', 'ctid'];

/** PostgreSQL cuts names at 63 bytes. */
const maxLength = 59;

/** Lasting names for fields from the names in the file: "Load factor %" -> "load_factor". */
export function fieldKeys(names: readonly string[]): string[] {
  const used = new Set<string>(systemColumns);
  return names.map((name, i) => {
    const stem =
      name
        .normalize('NFKD')
        .replace(/\p{M}/gu, '')
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '_')
        .replace(/^_+|_+$/g, '')
        .slice(0, maxLength)
        .replace(/^(?=\d)/, 'f_') || `field_${i + 1}`;
    let key = stem;
    for (let n = 2; used.has(key); n++) key = `${stem}_${n}`;
    used.add(key);
    return key;
  });
}

/** Gives every column a name of its own and says what was done. */
export function columnNames(head: readonly string[]): { names: string[]; notes: string[] } {
  const notes: string[] = [];
  const used = new Set<string>();
  const names = head.map((cell, i) => {
    const given = cutText(cell.replace(/\s+/g, ' ').trim(), 200);
    let name = given || tell('fieldKeys.column', { n: i + 1 });
    if (!given) notes.push(tell('fieldKeys.columnHasNoName', { n: i + 1, name }));
    for (let n = 2; used.has(name.toLowerCase()); n++)
      name = `${given || tell('fieldKeys.column', { n: i + 1 })} (${n})`;
    if (given && name !== given) notes.push(tell('fieldKeys.theNameIsUsed', { given, n: i + 1, name }));
    used.add(name.toLowerCase());
    return name;
  });
  return { names, notes };
}
