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
