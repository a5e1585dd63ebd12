/** Does work that comes in steps at once, and gives what comes of it. */
export function allSteps<T>(steps: Generator<void, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
