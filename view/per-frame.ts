/**
 * Calls `act` at once, and at most once more in each frame after that with what it was last called with: input that
 * comes faster than frames is folded together.
 */
export function perFrame<A extends unknown[]>(act: (...args: A) => void) {
  let frame = 0;
  let waiting: A | null = null;
  const next = () => {
    frame = 0;
    if (!waiting) return;
    const args = waiting;
    waiting = null;
    frame = requestAnimationFrame(next);
    act(...args);
  };
  const call = (...args: A) => {
    if (frame) {
      waiting = args;
      return;
    }
    frame = requestAnimationFrame(next);
    act(...args);
  };
  /** Forgets what is still waiting. */
  call.cancel = () => {
    if (frame) cancelAnimationFrame(frame);
    frame = 0;
    waiting = null;
  };
  return call;
}
