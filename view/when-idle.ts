/** Calls `act` once the page has nothing more urgent to do, at the latest after `within` ms. Returns how to call it off. */
export function whenIdle(act: () => void, within = 500): () => void {
  if (typeof requestIdleCallback === 'function') {
    const handle = requestIdleCallback(act, { timeout: within });
    return () => cancelIdleCallback(handle);
  }
  const timer = setTimeout(act, 60);
  return () => clearTimeout(timer);
}
