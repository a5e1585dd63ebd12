import { idFrom } from '../board/id';
import { chartIn, type OfferMaker } from './offer';

/** Lines on the plot. */
export const guideOffers: OfferMaker = ({ chart }) => [
  {
    id: 'line',
    text: 'Draws a line at a figure',
    accept(draft) {
      const target = chartIn(draft, chart.id);
      target.guides.push({
        kind: 'line',
        id: idFrom(
          'line',
          target.guides.map((guide) => guide.id),
        ),
        at: 0,
        style: 'dashed',
      });
    },
  },
];
