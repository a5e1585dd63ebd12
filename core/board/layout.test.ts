import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { columns, movedTo, type Place, placesOf, readingOrder } from './layout';

const place = fc.record({
  column: fc.integer({ min: 0, max: 11 }),
  row: fc.integer({ min: 0, max: 30 }),
  width: fc.integer({ min: 2, max: 12 }),
  height: fc.integer({ min: 2, max: 12 }),
});
const apart = (places: readonly Place[]) =>
  places.every((a, i) =>
    places.every(
      (b, j) =>
        i === j ||
        a.column + a.width <= b.column ||
        b.column + b.width <= a.column ||
        a.row + a.height <= b.row ||
        b.row + b.height <= a.row,
    ),
  );
const within = (places: readonly Place[]) =>
  places.every(({ column, width, row }) => column >= 0 && column + width <= columns && row >= 0);

describe('charts on the grid of a board', () => {
  it('stand in two columns of themselves; a single one has the board', () => {
    expect(placesOf([{}])).toEqual([{ column: 0, row: 0, width: 12, height: 4 }]);
    expect(placesOf([{}, {}, {}]).map(({ column, row }) => [column, row])).toEqual([
      [0, 0],
      [6, 0],
      [0, 4],
    ]);
  });
  it('without a place follow those that have one', () => {
    const [own, free] = placesOf([{ place: { column: 0, row: 0, width: 9, height: 5 } }, {}]);
    expect(own).toEqual({ column: 0, row: 0, width: 9, height: 5 });
    expect(free).toEqual({ column: 0, row: 5, width: 6, height: 4 });
  });
  it('never lie over each other or beyond the board, whatever a document says', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(place, fc.constant(undefined)), { minLength: 1, maxLength: 12 }),
        (given) => {
          const places = placesOf(given.map((each) => (each ? { place: each } : {})));
          expect(apart(places)).toBe(true);
          expect(within(places)).toBe(true);
        },
      ),
    );
  });
  it('make room for the one that is moved, which goes where it is put or above', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 8 }), fc.nat(7), place, (count, at, to) => {
        const before = placesOf(Array.from({ length: count }, () => ({})));
        const index = at % count;
        const after = movedTo(before, index, to);
        expect(apart(after)).toBe(true);
        expect(within(after)).toBe(true);
        expect(after[index]!.row).toBeLessThanOrEqual(to.row);
        after.forEach(({ width, height }, i) => {
          if (i !== index)
            expect({ width, height }).toMatchObject({ width: before[i]!.width, height: before[i]!.height });
        });
        // What has closed up stays as it is.
        expect(movedTo(after, index, after[index]!)).toEqual(after);
      }),
    );
  });
  it('a chart moved onto another pushes it down', () => {
    const before = placesOf([{}, {}, {}]);
    const after = movedTo(before, 2, { ...before[2]!, column: 0, row: 0 });
    expect(after.map(({ row }) => row)).toEqual([4, 0, 0]);
    expect(readingOrder(after)).toEqual([2, 1, 0]);
  });
});
