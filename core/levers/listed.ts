import type { Cube, CubeDimension } from '../data/cube';
import { type DatasetInfo, fieldOf } from '../data/dataset';
import { type Dimension, sameDimension } from '../data/dimension';
import { keyValues, rollUp } from '../data/roll-up';
import { compareKeys, type KeyValue } from '../data/values';
import type { LeverFacts } from './lever-kind';

/** A value a lever's list offers, with how many rows carry it. */
export interface ListedValue {
  value: KeyValue;
  count: number;
  /** What it belongs to, where the list is grouped. */
  group?: KeyValue;
}

/** Longer lists of texts stay on the server, which sorts and searches them. */
export const longestList = 5000;

export const distinctOf = (dataset: DatasetInfo, dimension: Dimension): number =>
  dimension.grain ? 0 : (fieldOf(dataset, dimension.field)?.profile?.distinct ?? 0);

/** Whether the list of a dimension is too long to be held in the page. */
export const staysOnServer = (dataset: DatasetInfo, dimension: Dimension): boolean =>
  distinctOf(dataset, dimension) > longestList;

const lists = new WeakMap<Cube, Map<string, readonly ListedValue[]>>();

/** For each code of a dimension the group that most of its rows are in. */
function groupsOf(cube: Cube, dimension: CubeDimension, group: CubeDimension): KeyValue[] {
  const counts = cube.partials.find((partial) => partial.aggregate === 'count' && !partial.field)!.values;
  const most = new Float64Array(dimension.values.length);
  const found: KeyValue[] = dimension.values.map(() => null);
  for (let i = 0; i < cube.cells; i++) {
    const code = dimension.codes[i]!;
    if (code < 0 || counts[i]! <= most[code]!) continue;
    most[code] = counts[i]!;
    found[code] = group.codes[i]! < 0 ? null : group.values[group.codes[i]!]!;
  }
  return found;
}

/** The values of a dimension in their natural order, with the rows that carry each; grouped, group by group. */
export function listedValues(cube: Cube, by: Dimension, group?: string): readonly ListedValue[] {
  const known = lists.get(cube) ?? new Map<string, readonly ListedValue[]>();
  lists.set(cube, known);
  const key = JSON.stringify([by.field, by.grain, group]);
  const before = known.get(key);
  if (before) return before;
  const { keys, partials } = rollUp(cube, [by], [{ aggregate: 'count' }], null);
  const dimension = cube.dimensions.find((candidate) => sameDimension(candidate, by))!;
  const grouping = group === undefined ? undefined : cube.dimensions.find(({ field }) => field === group);
  const groups = grouping && groupsOf(cube, dimension, grouping);
  const groupAt = groups && new Map(dimension.values.map((value, code) => [value, groups[code]!]));
  const list = keyValues(keys[0]!)
    .map(
      (value, i): ListedValue => ({
        value,
        count: partials[0]![i]!,
        ...(groupAt ? { group: groupAt.get(value) ?? null } : {}),
      }),
    )
    .filter(({ value }) => value !== null)
    .sort(
      (a, b) =>
        (groupAt ? compareKeys(a.group ?? null, b.group ?? null) : 0) || compareKeys(a.value, b.value),
    );
  known.set(key, list);
  return list;
}

/** The list of a lever's source, when it is here. */
export const listOf = (facts: LeverFacts | undefined, dimension: Dimension, group?: string) =>
  facts?.cube ? listedValues(facts.cube, dimension, group) : undefined;

const held = new WeakMap<readonly ListedValue[], ReadonlySet<KeyValue>>();

/** Which of the values are not in the data, as far as that is known. */
export function goneFrom(
  values: readonly KeyValue[],
  list: readonly ListedValue[] | undefined,
  facts: LeverFacts | undefined,
): KeyValue[] {
  if (!list) return values.filter((value) => facts?.gone?.has(value));
  let known = held.get(list);
  if (!known) {
    known = new Set(list.map(({ value }) => value));
    held.set(list, known);
  }
  return values.filter((value) => !known.has(value));
}
