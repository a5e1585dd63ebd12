import fc from 'fast-check';
import { expect, it } from 'vitest';
import { roomIn, roomText } from './show-room';

const side = fc.integer({ min: 40, max: 8000 });
const size = fc.record({ width: side, height: side });

it('is read as it was written, whatever charts are called', () => {
  fc.assert(
    fc.property(
      size,
      fc.constantFrom('light' as const, 'dark' as const),
      fc.dictionary(fc.string({ minLength: 1, maxLength: 20, unit: 'grapheme' }), size, {
        maxKeys: 6,
        noNullPrototype: true,
      }),
      (window, ground, plots) => {
        const room = { ...window, ground, plots };
        const text = roomText(room);
        expect(text).toMatch(/^[^\s,;"\\]+$/);
        expect(roomIn(text)).toEqual(room);
      },
    ),
  );
});

it('keeps within what a cookie can have', () => {
  const plots = Object.fromEntries(
    Array.from({ length: 60 }, (_, i) => [`${'🌊'.repeat(20)}${i}`, { width: 600, height: 300 }]),
  );
  const text = roomText({ width: 1280, height: 800, ground: 'dark', plots });
  expect(text.length).toBeLessThanOrEqual(3000);
  expect(Object.keys(roomIn(text)!.plots).length).toBeGreaterThan(5);
});

it('takes nothing else for one', () => {
  for (const text of ['', 'light', 'pink.1280x800', 'light.0x800', 'light.99999x800', 'light.1e3x800'])
    expect(roomIn(text)).toBeNull();
  expect(roomIn('light.1280x800.a~9x9.%E0%A4%A~600x300.~600x300.b~600x300')).toEqual({
    width: 1280,
    height: 800,
    ground: 'light',
    plots: { b: { width: 600, height: 300 } },
  });
});
