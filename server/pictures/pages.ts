import type { SheetBox } from '@sorvik/view/picture/board-sheet';

/** A stretch of a sheet, from its top to its bottom, px. */
export interface Stretch {
  top: number;
  bottom: number;
}

/**
 * Cuts a sheet into stretches that are not higher than a page: between its parts where that can be done, else through one
 * that is higher than a page by itself.
 */
export function pagesOf(
  boxes: readonly Pick<SheetBox, 'top' | 'bottom'>[],
  height: number,
  page: number,
): Stretch[] {
  const stretches: Stretch[] = [];
  let top = 0;
  while (height - top > page) {
    const most = top + page;
    // The last place above the end of the page at which nothing is torn apart.
    const cuts = boxes
      .map((box) => box.top)
      .filter((at) => at > top && at <= most)
      .filter((at) => !boxes.some((box) => box.top < at && box.bottom > at));
    const bottom = Math.max(...cuts, 0) || most;
    stretches.push({ top, bottom });
    top = bottom;
  }
  return [...stretches, { top, bottom: height }];
}
