/** So many items of a long list are worked through in one step: little enough that a page can answer in between. */
export const stepLength = 25_000;

/** Does work that comes in steps at once, and gives what comes of it. */
export function allSteps<T>(steps: Generator<void, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
