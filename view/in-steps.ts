/** So long one task goes on, ms: what is left waits for the next, so that the page can answer in between. */
const longest = 10;

/**
 * Does work that comes in steps, as many at a time as keep the page free, and hands out what comes of it. What is `urgent`
 * begins at once, all else when whoever asked for it is done. Gives what breaks it off.
 */
export function inSteps<T>(steps: Generator<void, T>, urgent: boolean, done: (made: T) => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const goOn = () => {
    const began = performance.now();
    for (;;) {
      const step = steps.next();
      if (step.done) {
        done(step.value);
        return;
      }
      if (performance.now() - began > longest) {
        timer = setTimeout(goOn);
        return;
      }
    }
  };
  if (urgent) goOn();
  else timer = setTimeout(goOn);
  return () => {
    clearTimeout(timer);
    steps.return?.(undefined as T);
  };
}
