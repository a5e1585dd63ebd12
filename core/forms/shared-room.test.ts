import fc from 'fast-check';
import { expect, it } from 'vitest';
import { sharedRoom } from './shared-room';

it('gives each what it wants, or cuts those that want most', () => {
  expect(sharedRoom([40, 90], 200)).toEqual([40, 90]);
  expect(sharedRoom([40, 90], 100)).toEqual([40, 60]);
  expect(sharedRoom([80, 90], 100)).toEqual([50, 50]);
  expect(sharedRoom([], 100)).toEqual([]);
});

it('never gives more than there is, nor more than is wanted, and wastes none', () => {
  const px = fc.integer({ min: 0, max: 500 });
  fc.assert(
    fc.property(fc.array(px, { minLength: 1, maxLength: 5 }), px, (wants, room) => {
      const given = sharedRoom(wants, room);
      const sum = given.reduce((all, each) => all + each, 0);
      const wanted = wants.reduce((all, each) => all + each, 0);
      given.forEach((each, i) => {
        expect(each).toBeLessThanOrEqual(wants[i]!);
      });
      expect(sum).toBeLessThanOrEqual(Math.max(0, room));
      expect(sum).toBeGreaterThan(Math.min(wanted, room) - wants.length);
    }),
  );
});
