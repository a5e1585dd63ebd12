import { type Look, lookColours } from '../board/look';
import type { Split } from '../board/split';
import type { KeyValue } from '../data/values';

/** Beyond this many, series in colours of their own begin to look alike. */
export const mostOwnColours = lookColours.length;

/**
 * The look of each series: the author's, or else a colour of the palette. It goes by the series of all the data, so that
 * none changes its colour when rows are filtered.
 */
export function seriesLooks(split: Split | undefined, all: readonly KeyValue[]): (value: KeyValue) => Look {
  const own = new Map(split?.looks?.map(({ value, look }) => [value, look]));
  const index = new Map(all.map((value, i) => [value, i]));
  return (value) => {
    // What is missing comes after all others.
    const at = index.get(value) ?? all.length;
    // Every other time through the palette is hatched, where marks have room for that.
    const hatched = Math.floor(at / lookColours.length) % 2 === 1;
    return {
      colour: lookColours[at % lookColours.length]!,
      ...(hatched ? { hatch: true } : {}),
      ...own.get(value),
    };
  };
}

/** Whether plain marks show their series by colour. */
export const showsSeriesColours = (split: Split | undefined): boolean => split?.colours === 'own';
