/**
 * Rearranges `values[0 .. length)` so that the one at `k` is the one that sorting would put there, with none greater
 * before it and returns it; by Hoare's selection, in time proportional to the length. No NaN may be among them.
 */
export function quickSelect(values: Float64Array, k: number, length = values.length): number {
  let left = 0;
  let right = length - 1;
  while (left < right) {
    // The middle of three keeps sorted input from being the worst case.
    const a = values[left]!;
    const b = values[(left + right) >> 1]!;
    const c = values[right]!;
    const pivot = a < b ? (b < c ? b : a < c ? c : a) : a < c ? a : b < c ? c : b;
    let low = left;
    let high = right;
    while (low <= high) {
      while (values[low]! < pivot) low++;
      while (values[high]! > pivot) high--;
      if (low <= high) {
        const held = values[low]!;
        values[low++] = values[high]!;
        values[high--] = held;
      }
    }
    if (k <= high) right = high;
    else if (k >= low) left = low;
    else break;
  }
  return values[k]!;
}

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
  const value = quickSelect(among, k - before);
  let less = before;
  for (const each of among) if (each < value) less++;
  return { value, less };
}
