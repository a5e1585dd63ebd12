import type { Board } from '@sorvik/core/board/board';
import { useEffect } from 'react';
import { paintedCharts } from '../chart/painted-charts';

/** What the server has drawn of the page; null once the page itself stands in its place. */
let drawn = document.getElementById('drawn');
if (drawn) {
  // The page itself is what is read aloud and reached by the keyboard, as soon as there is one.
  drawn.setAttribute('aria-hidden', 'true');
  drawn.inert = true;
}

/** What cannot be painted says so in the page itself: that is not waited for longer than so, ms. */
const longest = 4000;
/** Whatever becomes of the page, it is not hidden for longer, ms. */
const longestOfAll = 15_000;

/** Where charts are scrolled. */
const scrolled = (within: ParentNode | null) => within?.querySelector('#sv-charts');

/** Takes away what the server has drawn: the page itself is there, scrolled as that was. */
export function takeOver(): void {
  if (!drawn) return;
  const own = scrolled(document.getElementById('root'));
  own?.scrollTo(0, scrolled(drawn)?.scrollTop ?? 0);
  drawn.remove();
  drawn = null;
}
if (drawn) setTimeout(takeOver, longestOfAll);

/** Takes over once all charts of a board are painted, or there is no board to show. */
export function useTakeOver(board: Board | undefined, failed: boolean): void {
  useEffect(() => {
    if (!drawn) return;
    if (failed) takeOver();
    if (!board) return;
    const callOff = paintedCharts.once(board.charts, takeOver);
    const late = setTimeout(takeOver, longest);
    return () => {
      callOff();
      clearTimeout(late);
    };
  }, [board, failed]);
  // Whoever goes elsewhere is there.
  useEffect(() => takeOver, []);
}
