/** A line is only made smaller where there are more points than this to a px: with fewer nothing would be won. */
const dense = 6;

/**
 * A line of x, y, x, y .. px in rising x as what can be seen of it: of the points within each px across, the first, the lowest, the
 * highest and the last. It covers the very pixels that all of them would (Jugel and others, "M4: A Visualization-Oriented
 * Time Series Data Aggregation", 2014). A line that is not dense is given back as it is.
 */
export function condensedLine(points: number[]): number[] {
  const { length } = points;
  if (length < 4 || length / 2 <= dense * (points[length - 2]! - points[0]! + 1)) return points;
  const kept: number[] = [];
  let column = Number.NaN;
  let [first, low, high, last] = [0, 0, 0, 0];
  const keep = () => {
    let before = -1;
    for (const at of [first, Math.min(low, high), Math.max(low, high), last]) {
      if (at > before) kept.push(points[at]!, points[at + 1]!);
      before = Math.max(before, at);
    }
  };
  for (let i = 0; i < length; i += 2) {
    const own = Math.floor(points[i]!);
    if (own !== column) {
      if (i) keep();
      column = own;
      first = i;
      low = i;
      high = i;
    } else {
      if (points[i + 1]! < points[low + 1]!) low = i;
      if (points[i + 1]! > points[high + 1]!) high = i;
    }
    last = i;
  }
  keep();
  return kept;
}
