import { quickselect } from 'd3-array';

const bins = 512;

/**
 * The one of `values[0 .. length)` that sorting would put at `k`, and how many are less than it. Values, which lie between
 * `low` and `high`, are counted into equal bins first, so that only those of one bin have to be selected from; they stay
 * as they are. No NaN may be among them.
 */
export function selectNth(
  values: Float64Array,
  k: number,
  length: number,
  low: number,
  high: number,
): { value: number; less: number } {
  const scale = (bins - 1) / (high - low);
  let among = values.slice(0, length);
  let before = 0;
  // All alike, or so far apart that there are no bins between them: all are selected from.
  if (scale > 0 && Number.isFinite(scale)) {
    const counts = new Uint32Array(bins);
    for (let i = 0; i < length; i++) counts[((values[i]! - low) * scale) | 0]!++;
    let bin = 0;
    while (before + counts[bin]! <= k) before += counts[bin++]!;
    among = new Float64Array(counts[bin]!);
    let found = 0;
    for (let i = 0; i < length; i++)
      if ((((values[i]! - low) * scale) | 0) === bin) among[found++] = values[i]!;
  }
  quickselect(among, k - before);
  const value = among[k - before]!;
  let less = before;
  for (const each of among) if (each < value) less++;
  return { value, less };
}
