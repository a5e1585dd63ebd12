import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { type Turn, Turns } from './turns';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

/** Paintings of so many steps each, and what was painted of them. */
function painted(slowly: boolean, steps = 3) {
  const done: string[] = [];
  let count = 0;
  const turns = new Turns(({ passing, follow }: Turn) => {
    const name = `${++count}${passing ? ' passing' : ''}${follow ? ' follow' : ''}`;
    function* painting(): Generator<void, void> {
      for (let step = 1; step < steps; step++) {
        // Each step takes longer than a task should.
        vi.setSystemTime(Date.now() + 20);
        vi.spyOn(performance, 'now').mockReturnValue(Date.now());
        yield;
      }
      done.push(name);
    }
    return { steps: painting(), slowly };
  });
  return { turns, done };
}
const still: Turn = { passing: false, follow: false, urgent: false };

it('paints at once what is small', () => {
  const { turns, done } = painted(false);
  turns.request(still);
  turns.request({ ...still, passing: true, follow: true });
  expect(done).toEqual(['1', '2 passing follow']);
});

it('paints what is large in tasks of its own, and of what comes meanwhile the newest', () => {
  const { turns, done } = painted(true);
  turns.request({ ...still, passing: true });
  turns.request({ ...still, passing: true, follow: true });
  turns.request({ ...still, passing: true });
  turns.request(still);
  expect(done).toEqual([]);
  vi.advanceTimersToNextTimer();
  expect(done).toEqual([]);
  vi.runAllTimers();
  // Something else has moved, whatever came after it.
  expect(done).toEqual(['1 passing', '2 follow']);
  turns.request(still);
  vi.runAllTimers();
  expect(done).toHaveLength(3);
});

it('begins at once where a lever has moved, and ends at once where that takes little', () => {
  const little = painted(true, 1);
  little.turns.request({ ...still, urgent: true });
  expect(little.done).toEqual(['1']);
  little.turns.request({ ...still, urgent: true });
  expect(little.done).toEqual(['1', '2']);
  const much = painted(true);
  much.turns.request({ ...still, urgent: true });
  expect(much.done).toEqual([]);
  vi.runAllTimers();
  expect(much.done).toEqual(['1']);
});

it('gives up what is under way, and begins anew when it is asked to', () => {
  const { turns, done } = painted(true);
  turns.request(still);
  vi.advanceTimersToNextTimer();
  turns.request(still);
  turns.breakOff();
  vi.runAllTimers();
  expect(done).toEqual([]);
  turns.request(still);
  vi.runAllTimers();
  expect(done).toEqual(['2']);
});
