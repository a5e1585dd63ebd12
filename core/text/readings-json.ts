import type { ReadingsTable } from './readings-table';

/** Names of columns, each its own: a second one of a name gets its number. */
export function ownNames(names: readonly string[]): string[] {
  const used = new Set<string>();
  return names.map((name) => {
    let own = name;
    for (let n = 2; used.has(own); n++) own = `${name} (${n})`;
    used.add(own);
    return own;
  });
}

/** The readings of a chart as JSON: a list of records, one a line. */
export function readingsJson({ names, rows }: ReadingsTable): string {
  const own = ownNames(names);
  const records = rows.map((row) => JSON.stringify(Object.fromEntries(own.map((name, c) => [name, row[c]]))));
  return records.length ? `[\n${records.join(',\n')}\n]\n` : '[]\n';
}
