/** Work that several wait for and that is done once; it is broken off when the last of them has gone. */
export interface Shared {
  wait(signal?: AbortSignal): Promise<Uint8Array>;
}

export function shared(work: (signal: AbortSignal) => Promise<Uint8Array>, onEnd: () => void): Shared {
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
