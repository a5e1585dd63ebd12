import { titleLevers, titleParts } from './title-parts';

/** Numbers of marks that a subtitle can name, as `{lit}`. */
const counts = ['lit', 'all'] as const;
const isCount = (name: string): name is (typeof counts)[number] => counts.includes(name as never);

/** The levers that a subtitle names. */
export const subtitleLevers = (subtitle: string): string[] =>
  titleLevers(subtitle).filter((name) => !isCount(name));

/** What a subtitle's live words say now. */
export interface LiveWords {
  lit: number;
  all: number;
  /** What a lever holds, in words. */
  lever(id: string): string;
}

/** "{count} of {all} lit" as it reads now: "3 of 14 lit". */
export const subtitleText = (subtitle: string, live: LiveWords): string =>
  titleParts(subtitle)
    .map((part) => {
      if (typeof part === 'string') return part;
      return isCount(part.lever) ? live[part.lever].toLocaleString('en') : live.lever(part.lever);
    })
    .join('');
