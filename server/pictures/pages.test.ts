import fc from 'fast-check';
import { expect, it } from 'vitest';
import { pagesOf } from './pages';

it('what fits a page is one, and a part that does not fit any more begins the next', () => {
  const boxes = [
    { top: 10, bottom: 90 },
    { top: 100, bottom: 180 },
    { top: 100, bottom: 220 },
    { top: 190, bottom: 260 },
  ];
  expect(pagesOf(boxes, 270, 300)).toEqual([{ top: 0, bottom: 270 }]);
  expect(pagesOf(boxes, 270, 200)).toEqual([
    { top: 0, bottom: 100 },
    { top: 100, bottom: 270 },
  ]);
});

it('one that is higher than a page is cut, and nothing is lost or shown twice', () => {
  const box = fc.record({ top: fc.integer({ min: 0, max: 2000 }), high: fc.integer({ min: 1, max: 900 }) });
  fc.assert(
    fc.property(fc.array(box), fc.integer({ min: 200, max: 1000 }), (made, page) => {
      const boxes = made.map(({ top, high }) => ({ top, bottom: top + high }));
      const height = Math.max(1, ...boxes.map(({ bottom }) => bottom)) + 16;
      const pages = pagesOf(boxes, height, page);
      expect(pages[0]!.top).toBe(0);
      expect(pages.at(-1)!.bottom).toBe(height);
      pages.forEach(({ top, bottom }, i) => {
        expect(bottom).toBeGreaterThan(top);
        expect(bottom - top).toBeLessThanOrEqual(page);
        if (i) expect(top).toBe(pages[i - 1]!.bottom);
      });
    }),
  );
});
