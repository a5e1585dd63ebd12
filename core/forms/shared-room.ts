/**
 * The room, px, that each of some columns gets of what there is: as much as it wants, unless all together want more;
 * then those that want most are cut to one width.
 */
export function sharedRoom(wants: readonly number[], room: number): number[] {
  let left = Math.max(0, room);
  let cap = Number.POSITIVE_INFINITY;
  [...wants]
    .sort((a, b) => a - b)
    .forEach((want, i) => {
      const even = left / (wants.length - i);
      if (want <= even) left -= want;
      else {
        cap = Math.min(cap, even);
        left -= even;
      }
    });
  return wants.map((want) => Math.floor(Math.min(want, cap)));
}
