import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { estimateText } from '../forms/fit-text';
import type { SceneText } from '../forms/scene';
import { hidesEnds } from '../pipeline/hides-ends';
import { apart } from './apart';

const upright = { upright: true, left: 40, right: 640, top: 20, bottom: 300 };
const lying = { upright: false, left: 0, right: 700, top: 30, bottom: 300 };
const above = (y: number, text: string): SceneText => ({ x: 636, y, text, anchor: 'end', role: 'guide' });
const beside = (x: number, text: string): SceneText => ({ x, y: 20, text, anchor: 'end', role: 'guide' });
const box = ({ x, y, text, anchor }: SceneText) => {
  const width = estimateText(text, 12, true);
  const left = anchor === 'end' ? x - width : x;
  return [left, left + width, y - 6.5, y + 6.5] as const;
};
const touching = (texts: readonly SceneText[]) =>
  texts
    .map(box)
    .some(([l, r, t, b], i, all) =>
      all.some(([l2, r2, t2, b2], j) => i < j && l < r2 && l2 < r && t < b2 && t2 < b),
    );

describe('texts of guides', () => {
  it('stay where they are while they have room', () => {
    const texts = [above(100, 'upper 140'), above(200, 'lower 60')];
    expect(apart(texts, upright, estimateText)).toEqual(texts);
  });
  it('move to the other end of their line, then to its other side', () => {
    const [, second, third] = apart(
      [above(100, 'a 1'), above(104, 'b 2'), above(106, 'c 3')],
      upright,
      estimateText,
    );
    expect(second).toMatchObject({ y: 104, anchor: 'start', x: 50 });
    expect(third).toMatchObject({ y: 124, anchor: 'end' });
  });
  it('do not hide where a mark ends, while there is another place', () => {
    const columns = (tops: number[]) =>
      hidesEnds({
        values: { direction: 'y' },
        marks: {
          shape: 'rects',
          x: Float64Array.from(tops, (_, i) => 40 + i * 20),
          y: Float64Array.from(tops),
          width: new Float64Array(tops.length).fill(18),
          height: Float64Array.from(tops, (top) => 300 - top),
        },
      } as never);
    const on = (tops: number[]) => apart([above(100, 'upper 140')], upright, estimateText, columns(tops))[0]!;
    const level = Array<number>(30).fill(200);
    expect(on(level)).toMatchObject({ y: 100, anchor: 'end' });
    // The last columns end behind the text: it goes to the other end of its line.
    expect(on([...level.slice(0, 27), 99, 98, 101])).toMatchObject({ y: 100, anchor: 'start' });
    // Where some end there too, it goes below the line, where columns are only passed.
    expect(on([100, 100, ...level.slice(0, 25), 99, 98, 101])).toMatchObject({ y: 118, anchor: 'end' });
    expect(on(Array<number>(30).fill(110))).toMatchObject({ y: 100, anchor: 'end' });
  });
  it('turn around upright lines', () => {
    const [, second] = apart([beside(300, '4.06 min'), beside(312, '4.3 min')], lying, estimateText);
    expect(second).toMatchObject({ anchor: 'start', x: 322 });
  });
  it('never lie over one another, wherever their lines are', () => {
    const text = fc.string({ minLength: 1, maxLength: 20 });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 20, max: 300 }), text), { maxLength: 12 }), (list) => {
        expect(
          touching(
            apart(
              list.map(([y, name]) => above(y, name)),
              upright,
              estimateText,
            ),
          ),
        ).toBe(false);
        expect(
          touching(
            apart(
              list.map(([x, name]) => beside(x + 200, name)),
              lying,
              estimateText,
            ),
          ),
        ).toBe(false);
      }),
    );
  });
});
