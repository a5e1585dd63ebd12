import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { estimateText, fitText, widestOf } from './fit-text';

describe('the widest of many texts', () => {
  const text = fc.string({ minLength: 1, maxLength: 12 });
  it('is as wide as if each had been measured', () => {
    fc.assert(
      fc.property(fc.array(text, { maxLength: 400 }), (texts) => {
        const all = texts.map((each) => estimateText(each, 12, true));
        expect(widestOf(texts, 12, estimateText)).toBeCloseTo(Math.max(0, ...all), 9);
      }),
    );
  });
  it('is found among thousands of equally long ones, so that none is cut', () => {
    // Ones are narrow: the widest come last, behind hundreds of the same length.
    const measure = (of: string, size: number) =>
      Array.from(of, (letter) => (letter === '1' ? 0.4 : 0.6)).reduce((a, b) => a + b, 0) * size;
    const texts = [
      ...Array.from({ length: 900 }, (_, i) => `Stall 1${String(i).padStart(3, '1')}`),
      ...Array.from({ length: 900 }, (_, i) => `Stall 2${String(i).padStart(3, '0')}`),
    ];
    const room = widestOf(texts, 12, measure);
    expect(texts.filter((each) => fitText(each, room, 12, measure) !== each)).toEqual([]);
  });
  it('measures few of them', () => {
    let measured = 0;
    const texts = Array.from({ length: 5000 }, (_, i) => `Stall ${i}`);
    widestOf(texts, 12, (of, size) => {
      measured++;
      return of.length * size;
    });
    expect(measured).toBeLessThan(150);
  });
});
