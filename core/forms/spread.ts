/**
 * Moves lines of text that stand in their order down, and up again from the bottom, until none touches another: their
 * middles, px. Where there are more than have room, the first stand above the top.
 */
export function spread(
  middles: readonly number[],
  lineHeight: number,
  top: number,
  bottom: number,
): number[] {
  const placed = middles.slice();
  let least = top + lineHeight / 2;
  for (let i = 0; i < placed.length; i++) {
    placed[i] = Math.max(placed[i]!, least);
    least = placed[i]! + lineHeight;
  }
  let floor = bottom - lineHeight / 2;
  for (let i = placed.length - 1; i >= 0; i--) {
    placed[i] = Math.min(placed[i]!, floor);
    floor = placed[i]! - lineHeight;
  }
  return placed;
}
