/**
 * Does work at once, or, while something passes, at most once in so many ms: what comes in between is left out, except
 * the last, which is done when the time is over, unless it is called off.
 */
export function paced(ms: number): {
  (work: () => void, passing: boolean): void;
  cancel(): void;
} {
  let at = Number.NEGATIVE_INFINITY;
  let pending: (() => void) | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const now = (work: () => void) => {
    clearTimeout(timer);
    timer = undefined;
    pending = null;
    at = performance.now();
    work();
  };
  const run = (work: () => void, passing: boolean) => {
    const left = at + ms - performance.now();
    if (!passing || left <= 0) {
      now(work);
      return;
    }
    pending = work;
    timer ??= setTimeout(() => pending && now(pending), left);
  };
  const cancel = () => {
    clearTimeout(timer);
    timer = undefined;
    pending = null;
  };
  return Object.assign(run, { cancel });
}
