import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { paced } from './paced';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

it('leaves out what comes too fast, but never the last', () => {
  const done: number[] = [];
  const pace = paced(100);
  for (let i = 0; i < 5; i++) pace(() => done.push(i), true);
  expect(done).toEqual([0]);
  vi.advanceTimersByTime(100);
  expect(done).toEqual([0, 4]);
  vi.advanceTimersByTime(500);
  expect(done).toEqual([0, 4]);
});

it('does at once what does not pass, and forgets what was waiting', () => {
  const done: string[] = [];
  const pace = paced(100);
  pace(() => done.push('first'), true);
  pace(() => done.push('waiting'), true);
  pace(() => done.push('end'), false);
  vi.advanceTimersByTime(500);
  expect(done).toEqual(['first', 'end']);
});

it('does nothing more once it is called off', () => {
  const done: number[] = [];
  const pace = paced(100);
  pace(() => done.push(1), true);
  pace(() => done.push(2), true);
  pace.cancel();
  vi.advanceTimersByTime(500);
  expect(done).toEqual([1]);
});
