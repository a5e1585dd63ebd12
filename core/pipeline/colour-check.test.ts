import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { colourDistance, leastDistance, nearestStrong, weakSpots } from './colour-check';

describe('a lit colour', () => {
  it('stands off what is muted, or is said where it does not and to whom', () => {
    expect(weakSpots('#b8441c')).toEqual([]);
    expect(weakSpots('#d8d1c4').map(({ ground }) => ground)).toContain('light');
    expect(weakSpots('#404850').map(({ ground }) => ground)).toContain('dark');
    expect(weakSpots('#d0c8c0').every(({ ground }) => ground === 'light')).toBe(true);
  });
  it('can be lost on some people only', () => {
    // A deep green is told from the dark muted tone by its green alone.
    const spots = weakSpots('#1c6e54').map(({ vision }) => vision);
    expect(spots).not.toContain('everybody');
    expect(spots.some((vision) => vision === 'green')).toBe(true);
  });
  it('has a neighbour that stands off everywhere', () => {
    const hex = fc
      .tuple(fc.nat(255), fc.nat(255), fc.nat(255))
      .map((parts) => `#${parts.map((part) => part.toString(16).padStart(2, '0')).join('')}`);
    fc.assert(
      fc.property(hex, (colour) => {
        const better = nearestStrong(colour);
        expect(weakSpots(better)).toEqual([]);
      }),
      { numRuns: 40, examples: [['#004f4a']] },
    );
  });
});

it('distances are those of CIE Lab', () => {
  expect(colourDistance('#000000', '#ffffff')).toBeCloseTo(100, 3);
  expect(colourDistance('#b8441c', '#b8441c')).toBe(0);
  expect(leastDistance).toBeGreaterThan(2);
});
