import type { Locale } from '../messages/locale';
import { titleLevers, titleParts } from './title-parts';

/** What a subtitle can name besides levers, as `{lit}`: numbers of marks, and the measure over all of its rows. */
export const liveNames = ['lit', 'all', 'total'] as const;
const isLive = (name: string): name is (typeof liveNames)[number] => liveNames.includes(name as never);

/** The levers that a subtitle names. */
export const subtitleLevers = (subtitle: string): string[] =>
  titleLevers(subtitle).filter((name) => !isLive(name));

/** What a subtitle's live words say now. */
export interface LiveWords {
  lit: number;
  all: number;
  total(): string;
  /** What a lever holds, in words. */
  lever(id: string): string;
}

/** "{count} of {all} lit" as it reads now: "3 of 14 lit". */
export const subtitleText = (subtitle: string, live: LiveWords, locale: Locale): string =>
  titleParts(subtitle)
    .map((part) => {
      if (typeof part === 'string') return part;
      if (!isLive(part.lever)) return live.lever(part.lever);
      return part.lever === 'total' ? live.total() : locale.count(live[part.lever]);
    })
    .join('');
