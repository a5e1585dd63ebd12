// Loaded into the server by the bench: when it is told to, it writes down the longest time for which the event loop stood
// still since it was last asked, in milliseconds.

import { writeFileSync } from 'node:fs';
import { monitorEventLoopDelay } from 'node:perf_hooks';

const file = process.env.SORVIK_STALL_FILE;
if (file) {
  const delay = monitorEventLoopDelay({ resolution: 1 });
  delay.enable();
  process.on('SIGUSR2', () => {
    writeFileSync(file, String(delay.max / 1e6));
    delay.reset();
  });
}
