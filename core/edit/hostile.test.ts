import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { board } from '../testing/fixtures';
import { readBoard } from './read-board';

/** Every place in a document, as the keys that lead to it. */
function placesIn(value: unknown, way: string[] = []): string[][] {
  if (typeof value !== 'object' || value === null) return [way];
  return [way, ...Object.entries(value).flatMap(([key, inner]) => placesIn(inner, [...way, key]))];
}

/** The document with something else at one place. */
function changedAt(document: unknown, way: readonly string[], value: unknown): unknown {
  const [key, ...rest] = way;
  if (key === undefined) return value;
  const copy = (Array.isArray(document) ? [...document] : { ...(document as object) }) as Record<
    string,
    unknown
  >;
  copy[key] = changedAt(copy[key], rest, value);
  return copy;
}

const plain = JSON.parse(JSON.stringify(board));
const places = placesIn(plain).slice(1);

describe('a document that somebody has tampered with', () => {
  it('is refused with places and reasons, or read; it never breaks the reader', () => {
    fc.assert(
      fc.property(fc.constantFrom(...places), fc.jsonValue({ maxDepth: 3 }), (way, value) => {
        const reading = readBoard(changedAt(plain, way, value));
        if (reading.ok) return;
        expect(reading.problems.length).toBeGreaterThan(0);
        for (const { pointer, message } of reading.problems) {
          expect(pointer).toMatch(/^(\/[^/]*)*$/);
          expect(message.length).toBeGreaterThan(5);
        }
      }),
      { numRuns: 1500 },
    );
  });

  it('is refused when a name it does not know is put anywhere', () => {
    const objects = places.filter((way) => {
      const value = way.reduce<unknown>((at, key) => (at as Record<string, unknown>)[key], plain);
      return typeof value === 'object' && value !== null && !Array.isArray(value);
    });
    for (const way of objects) {
      const reading = readBoard(changedAt(plain, [...way, 'colur'], 'red'));
      expect(reading.ok, way.join('/')).toBe(false);
    }
  });

  it('cannot reach the prototype of anything', () => {
    const hostile = JSON.parse(`{"__proto__": {"polluted": true}, ${JSON.stringify(board).slice(1)}`);
    readBoard(hostile);
    readBoard({ ...board, constructor: { prototype: { polluted: true } } });
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  });

  it('may hold what it likes in texts: they are only ever text', () => {
    const title = '<img src=x onerror=alert(1)> "; DROP TABLE boards; --';
    expect(readBoard({ ...board, title })).toMatchObject({ ok: true, board: { title } });
  });
});
