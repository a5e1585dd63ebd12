import type { ShowRoom } from '@sorvik/core/board/show-room';

/** What stands around charts in a window, and around a plot in its cell, px: what a browser has not kept is guessed by it. */
const around = { levers: 266, sides: 40, head: 92, above: 84, gap: 12 };
const inCell = { sides: 28, words: 130 };
const leastRow = 56;
const columns = 12;

const spanOf = (style: string, name: string): number =>
  Number(new RegExp(`${name}:[^;]*span (\\d+)`).exec(style)?.[1]) || columns;

/** How large a plot is, px: as a browser has kept it, else as it would be about. */
export function plotRoom(
  plot: Element,
  { width, height, plots }: ShowRoom,
): { width: number; height: number } {
  const figure = plot.closest('figure');
  const known = plots[figure?.getAttribute('data-chart') ?? ''];
  if (known) return known;
  const cell = plot.closest('[data-part="cell"]');
  const show = plot.closest('main');
  if (!cell || !show) return { width: 300, height: 100 };
  if (width <= 900) return { width: width - around.sides - inCell.sides, height: 220 };
  const style = cell.getAttribute('style') ?? '';
  const beside = show.querySelector('aside') ? around.levers : 0;
  const above = show.querySelector('#sv-levers-above') ? around.above : 0;
  const room = { width: width - beside - around.sides, height: height - around.head - above };
  const rows = [...show.querySelectorAll('[data-part="cell"]')].map((each) => {
    const at = each.getAttribute('style') ?? '';
    return (Number(/grid-row:\s*(\d+)/.exec(at)?.[1]) || 1) - 1 + spanOf(at, 'grid-row');
  });
  const column = (room.width - (columns - 1) * around.gap) / columns;
  const row = Math.max(leastRow, room.height / Math.max(1, ...rows) - around.gap);
  const [wide, high] = [spanOf(style, 'grid-column'), spanOf(style, 'grid-row')];
  return {
    width: Math.floor(wide * column + (wide - 1) * around.gap - inCell.sides),
    height: Math.max(120, Math.floor(high * row + (high - 1) * around.gap - inCell.words)),
  };
}
