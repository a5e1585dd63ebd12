import { readBoard } from '@sorvik/core/edit/read-board';
import { describe, expect, it } from 'vitest';
import { todaysSailings } from './feed';
import { demoBoards, todayBoard } from './main';
import { ollenCsv } from './ollen-csv';
import { events, routes } from './scenario';

const lines = [...ollenCsv(150_000)]
  .join('')
  .trimEnd()
  .split('\n')
  .slice(1)
  .map((line) => line.split(','));

describe('the demo data', () => {
  it('is about as long as asked for, and the same each time', () => {
    expect(Math.abs(lines.length - 150_000)).toBeLessThan(3000);
    const head = (rows: number) => ollenCsv(rows).next().value;
    expect(head(150_000)).toBe(head(150_000));
    const long = [...ollenCsv(600_000)].reduce((n, piece) => n + piece.split('\n').length - 1, -1);
    expect(Math.abs(long - 600_000)).toBeLessThan(15_000);
  });
  it('has fourteen routes, one of which opens late', () => {
    expect(new Set(lines.map((line) => line[2])).size).toBe(14);
    const late = routes.find((route) => route.from)!;
    expect(lines.filter((line) => line[2] === late.name).every((line) => line[0]! >= late.from!)).toBe(true);
  });
  it('has ties, missing days, missing figures and a storm winter', () => {
    const total = (name: string) =>
      lines.filter((line) => line[2] === name).reduce((sum, line) => sum + Number(line[5]), 0);
    expect(total('Fennow – Aldsey')).toBe(total('Corvane – Nemmick'));
    const days = new Set(lines.map((line) => line[0]));
    expect(days.size).toBeLessThan(2192);
    expect(lines.some((line) => line[9] === '' && line[10] === '')).toBe(true);
    const inStorm = [...days].filter((day) => day! >= events.stormFrom && day! <= events.stormTo).length;
    expect(inStorm).toBeLessThan(49);
  });
});

it('the demo boards are valid', () => {
  for (const board of [...demoBoards, todayBoard]) expect(readBoard(board)).toMatchObject({ ok: true });
});

describe("today's sailings", () => {
  const at = (time: string) => todaysSailings(new Date(time)).trimEnd().split('\n').slice(1);
  it('are those that have left, and stay as they were', () => {
    const morning = at('2026-11-27T09:30:00Z');
    const evening = at('2026-11-27T21:30:00Z');
    expect(morning.length).toBeGreaterThan(20);
    expect(evening).toHaveLength(14 * 11);
    expect(morning.filter((line) => !evening.includes(line))).toEqual([]);
    expect(new Set(evening.map((line) => line.split(',')[0]))).toEqual(new Set(['2026-11-27']));
  });
  it('are those of the day before until the first has left', () => {
    expect(at('2026-11-28T03:00:00Z')).toEqual(at('2026-11-27T23:59:00Z'));
  });
});
