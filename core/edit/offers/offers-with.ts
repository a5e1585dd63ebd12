import type { Board } from '../../board/board';
import { leverUses } from '../../pipeline/lever-uses';
import { meaningOf, withLeversRenamed } from '../copy-chart';
import { chartIn, type Offer, type OfferContext } from './offer';
import { offersFor } from './offers-for';

/** A board whose first lever is this one, so that offers take it before others that could do the same. */
const withFirst = (levers: Board['levers'], lever: string): Board['levers'] =>
  [...levers].sort((a, b) => Number(b.id === lever) - Number(a.id === lever));

const usesOf = (board: Board, chart: string, lever: string) =>
  leverUses(chartIn(board, chart)).filter((use) => use.lever === lever).length;

/**
 * Accepts an offer with a lever in the place of the one that the offer would take or make. False where that is not
 * possible: the offer needs others besides, or has no use for a lever of this sort.
 */
function acceptWith(offer: Offer, draft: Board, chart: string, lever: string): boolean {
  const order = draft.levers.map(({ id }) => id);
  const own = draft.levers.find(({ id }) => id === lever)!;
  draft.levers = withFirst(draft.levers, lever);
  offer.accept(draft);
  const made = draft.levers.filter(({ id }) => !order.includes(id));
  const stood = order.map((id) => draft.levers.find((each) => each.id === id)!);
  const [one] = made;
  if (one) {
    if (made.length > 1 || meaningOf(one) !== meaningOf(own)) return false;
    const at = draft.charts.findIndex(({ id }) => id === chart);
    draft.charts[at] = withLeversRenamed(draft.charts[at]!, new Map([[one.id, lever]]));
  }
  draft.levers = stood;
  return true;
}

/** What can still be said of a chart with a lever that the board has, and with no other that would have to be made. */
export function offersWith(context: OfferContext, lever: string): Offer[] {
  const { board, chart } = context;
  const first: Board = { ...board, levers: withFirst(board.levers, lever) };
  return offersFor({ ...context, board: first })
    .filter((offer) => {
      const tried = structuredClone(board);
      return (
        acceptWith(offer, tried, chart.id, lever) &&
        tried.charts.length === board.charts.length &&
        usesOf(tried, chart.id, lever) > usesOf(board, chart.id, lever)
      );
    })
    .map((offer) => ({ ...offer, accept: (draft) => void acceptWith(offer, draft, chart.id, lever) }));
}
