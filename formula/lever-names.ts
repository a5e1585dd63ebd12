const skippedOrLever = /'(?:[^']|'')*'|"(?:[^"]|"")*"|--[^\n]*|:([\p{L}_][\p{L}\p{N}_]*)/gu;

/** The id of a lever as a formula names it: `:fare_change` is the lever `fare-change`. */
export const leverIdOf = (name: string): string => name.toLowerCase().replaceAll('_', '-');
export const leverNameOf = (id: string): string => id.replaceAll('-', '_');

/** The ids of the levers that a formula names, each once; found without reading it as a whole. */
export const leversIn = (text: string): string[] => [
  ...new Set([...text.matchAll(skippedOrLever)].flatMap(([, name]) => (name ? [leverIdOf(name)] : []))),
];

/** A formula with other words where it names levers; what `change` gives back undefined for stays. */
export const withLevers = (text: string, change: (id: string) => string | undefined): string =>
  text.replace(skippedOrLever, (all: string, name: string | undefined) =>
    name === undefined ? all : (change(leverIdOf(name)) ?? all),
  );
