/** A title as it is written, cut into its texts and the levers it names as `{id}`. */
export type TitlePart = string | { lever: string };

export const titleParts = (title: string): TitlePart[] =>
  title
    .split(/(\{[a-z0-9][a-z0-9_-]{0,62}\})/)
    .filter((part) => part !== '')
    .map((part) => (/^\{[a-z0-9][a-z0-9_-]*\}$/.test(part) ? { lever: part.slice(1, -1) } : part));

export const titleLevers = (title: string): string[] => [
  ...new Set(titleParts(title).flatMap((part) => (typeof part === 'string' ? [] : [part.lever]))),
];

interface Named {
  levers: readonly { id: string; name: string }[];
}

/** The title for editing: levers by the names that people know, `Passengers on {Route}`. */
export const titleWithNames = (title: string, { levers }: Named): string =>
  titleParts(title)
    .map((part) =>
      typeof part === 'string'
        ? part
        : `{${levers.find((lever) => lever.id === part.lever)?.name ?? part.lever}}`,
    )
    .join('');

/** A title as it was edited, with the names of levers turned into their ids. Braces around anything else stay text. */
export const titleWithIds = (title: string, { levers }: Named): string =>
  title.replace(/\{([^{}]+)\}/g, (all, name: string) => {
    const wanted = name.trim().toLowerCase();
    const found = levers.find((lever) => lever.name.toLowerCase() === wanted || lever.id === wanted);
    return found ? `{${found.id}}` : all;
  });
