/** Does `work` at the beginning of a frame; the script's time and the time until that frame is painted, ms. */
export type InFrame = (work: () => void) => Promise<{ script: number; frame: number }>;

/** Run in a page before anything else, puts `inFrame` there: work is done where browsers deliver input. */
export const frameHelper = () => {
  const inFrame: InFrame = (work) =>
    new Promise((done) =>
      requestAnimationFrame(() => {
        const started = performance.now();
        work();
        const script = performance.now() - started;
        const channel = new MessageChannel();
        channel.port1.onmessage = () => done({ script, frame: performance.now() - started });
        channel.port2.postMessage(0);
      }),
    );
  Object.assign(window, { inFrame });
};
