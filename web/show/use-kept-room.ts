import type { Board } from '@sorvik/core/board/board';
import { roomCookie, roomText } from '@sorvik/core/board/show-room';
import { whenIdle } from '@sorvik/view/when-idle';
import { useEffect } from 'react';
import { visit } from '../app/visit';
import { paintedCharts } from '../chart/painted-charts';

/** A window that is being made larger or smaller is looked at when it has come to rest, ms. */
const untilStill = 1000;
const year = 365 * 24 * 3600;

/** The room that a show has in this window. */
function roomNow(): string {
  const plots: Record<string, { width: number; height: number }> = {};
  for (const figure of document.querySelectorAll<HTMLElement>('#root figure[data-chart]')) {
    const plot = figure.querySelector('[data-part="plot"]');
    if (plot) plots[figure.dataset.chart!] = { width: plot.clientWidth, height: plot.clientHeight };
  }
  const ground = document.documentElement.dataset.bsTheme === 'dark' ? 'dark' : 'light';
  return roomText({ width: innerWidth, height: innerHeight, ground, plots });
}

/** Keeps the room that a show has in this window, for the server: it draws the show for it the next time. */
export function useKeptRoom(id: string, board: Board | undefined): void {
  useEffect(() => {
    // A frame keeps nothing for the page that it is in.
    if (!board || visit.embedded) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const keep = () => {
      // biome-ignore lint/suspicious/noDocumentCookie: the store of cookies is not there over plain http
      document.cookie = [
        `${roomCookie}=${roomNow()}`,
        `path=/show/${encodeURIComponent(id)}`,
        `max-age=${year}`,
        'samesite=lax',
        ...(location.protocol === 'https:' ? ['secure'] : []),
      ].join('; ');
    };
    const later = () => {
      clearTimeout(timer);
      timer = setTimeout(() => whenIdle(keep), untilStill);
    };
    const callOff = paintedCharts.once(board.charts, later);
    addEventListener('resize', later);
    return () => {
      clearTimeout(timer);
      callOff();
      removeEventListener('resize', later);
    };
  }, [id, board]);
}
