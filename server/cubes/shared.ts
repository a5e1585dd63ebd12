/** Work that several wait for and that is done once; it is broken off when the last of them has gone. */
export interface Shared<T> {
  wait(signal?: AbortSignal): Promise<T>;
}

export function shared<T>(work: (signal: AbortSignal) => Promise<T>, onEnd: () => void): Shared<T> {
  const abort = new AbortController();
  const done = work(abort.signal).finally(onEnd);
  // Nobody may be left to hear of it.
  done.catch(() => {});
  let waiting = 0;
  return {
    wait(signal) {
      waiting++;
      signal?.addEventListener(
        'abort',
        () => {
          waiting--;
          if (waiting === 0) abort.abort(new Error('whoever asked has gone'));
        },
        { once: true },
      );
      return done;
    },
  };
}
