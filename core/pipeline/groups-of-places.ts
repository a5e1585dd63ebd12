import type { Cube } from '../data/cube';
import { type Dimension, sameDimension } from '../data/dimension';
import { keyValues, rollUp } from '../data/roll-up';
import type { KeyValue } from '../data/values';

/**
 * What another field has in the rows of each place of some readings, each value once: of a quay its region. Filters have no
 * say in it. Undefined where the cube does not have that field.
 */
export function groupsOfPlaces({
  cube,
  by,
  places,
  ...dimension
}: Dimension & { cube: Cube; by: Dimension; places: readonly KeyValue[] }): KeyValue[][] | undefined {
  const whole = cube.all ?? cube;
  if (!whole.dimensions.some((each) => sameDimension(each, dimension))) return undefined;
  const { keys } = rollUp(whole, [by, dimension], [], null);
  const [categories, values] = keys.map(keyValues);
  const groups = new Map<KeyValue, KeyValue[]>();
  categories!.forEach((category, i) => {
    const group = groups.get(category);
    if (group) group.push(values![i]!);
    else groups.set(category, [values![i]!]);
  });
  return places.map((place) => groups.get(place) ?? []);
}
