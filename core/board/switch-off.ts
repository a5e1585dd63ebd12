import { type Chart, type Single, singles } from './chart';

/** The place of a part in a chart, as sentences name it: `['cues', 0]`, `['whole']`, `['measure', 'format']`. */
export interface Placed {
  part?: readonly (string | number)[];
}

/** Of what a chart has one at most: the name of it; undefined for one of several, and for what cannot be missing. */
function singleOf({ part = [] }: Placed): Single | undefined {
  const name = part.length === 2 && part[0] === 'measure' ? part[1] : part.length === 1 ? part[0] : undefined;
  return singles.find((single) => single === name);
}

type Several = 'cues' | 'guides' | 'touches' | 'also';
const several: readonly Several[] = ['cues', 'guides', 'touches', 'also'];

/** One of several parts: where they are, and which. */
function oneOf({ part = [] }: Placed): { list: Several; at: number } | undefined {
  const [name, at] = part;
  const list = several.find((each) => each === name);
  return list && typeof at === 'number' && part.length === 2 ? { list, at } : undefined;
}

/** Whether a sentence can be switched off. */
export const canSwitchOff = (placed: Placed): boolean =>
  singleOf(placed) !== undefined || oneOf(placed) !== undefined;

/** Whether the part that a sentence speaks of is switched off. */
export function isOff(chart: Chart, placed: Placed): boolean {
  const one = oneOf(placed);
  if (one) return chart[one.list]?.[one.at]?.off === true;
  const single = singleOf(placed);
  return single !== undefined && chart.off?.includes(single) === true;
}

/** Switches a part of a chart's draft off, or on again. */
export function switchPart(draft: Chart, placed: Placed, off: boolean): void {
  const one = oneOf(placed);
  const item = one && draft[one.list]?.[one.at];
  if (item) {
    if (off) item.off = true;
    else delete item.off;
    return;
  }
  const single = singleOf(placed);
  if (!single) return;
  const rest = (draft.off ?? []).filter((each) => each !== single);
  const next = off ? [...rest, single] : rest;
  if (next.length) draft.off = next;
  else delete draft.off;
}
