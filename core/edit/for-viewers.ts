import { leverNameOf } from '@sorvik/formula/lever-names';
import type { Board } from '../board/board';
import { enabledChart } from '../board/enabled';

/**
 * A board as it is sent to its viewers: without cues, guides, touches and words that are switched off, and without hidden levers that
 * nothing of it names. Others that are hidden are needed to draw it.
 */
export function boardForViewers(board: Board): Board {
  const charts = board.charts.map(enabledChart).map((chart) => ({
    ...chart,
    cues: chart.cues.filter(({ off }) => !off),
  }));
  const hidden = board.levers.filter((lever) => lever.hidden);
  const rest = (id: string) =>
    JSON.stringify({ ...board, charts, levers: board.levers.filter((lever) => lever.id !== id) });
  const unused = hidden.filter(({ id }) => {
    const text = rest(id);
    return !text.includes(id) && !text.includes(leverNameOf(id));
  });
  return { ...board, charts, levers: board.levers.filter((lever) => !unused.includes(lever)) };
}
