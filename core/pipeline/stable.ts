import { type Measure, measureKey } from '../board/measure';

/** Hands back the last list for as long as a new one has the very same items, so that it can be compared as a whole. */
export function stableList<T>(): (list: readonly T[]) => readonly T[] {
  let last: readonly T[] = [];
  return (list) => {
    if (list.length !== last.length || list.some((item, i) => item !== last[i])) last = list;
    return last;
  };
}

/** Hands back the last object for as long as a new one says the very same. */
export function stableParts<T extends object>(): (value: T) => T {
  let last: T | undefined;
  return (value) => {
    const names = Object.keys(value) as (keyof T)[];
    const same =
      last && names.length === Object.keys(last).length && names.every((name) => value[name] === last![name]);
    if (!same) last = value;
    return last!;
  };
}

/** The same for measures, which are the same when they say the same. */
export function stableMeasures(): (list: readonly Measure[]) => readonly Measure[] {
  let last: readonly Measure[] = [];
  return (list) => {
    if (list.map(measureKey).join() !== last.map(measureKey).join()) last = list;
    return last;
  };
}
