import type { Board } from '../board/board';
import { formKinds } from '../forms/registry';
import { chartIn, type Offer, type OfferMaker } from './offer';

const formatOffer = (id: string): Offer => ({
  id: 'format',
  text: 'Writes its figures with a unit, as percentages, or with fixed decimals',
  accept(draft) {
    chartIn(draft, id).measure.format = { as: 'number' };
  },
});

/** How figures are written, what the value axis shows, and what stands for missing readings. */
export const plotOffers: OfferMaker = ({ chart }) => {
  const form = formKinds.get(chart.form);
  if (form.round) return chart.measure.format ? [] : [formatOffer(chart.id)];
  const axis = (id: string, text: string, made: NonNullable<typeof chart.axis>) => ({
    id,
    text,
    accept: (draft: Board) => {
      chartIn(draft, chart.id).axis = made;
    },
  });
  return [
    ...(chart.measure.format ? [] : [formatOffer(chart.id)]),
    ...(chart.axis
      ? []
      : [
          ...(form.fromZero
            ? []
            : [axis('axis-data', 'Measures on an axis that begins at the lowest reading', { from: 'data' })]),
          axis('axis-fixed', 'Measures on an axis between fixed ends', {}),
          axis('axis-log', 'Measures on a logarithmic axis', { scale: 'log' }),
        ]),
    ...(form.strands && !chart.missing
      ? [
          {
            id: 'missing',
            text: 'Leads lines across missing readings, or down to zero',
            accept: (draft: Board) => {
              chartIn(draft, chart.id).missing = 'bridged';
            },
          },
        ]
      : []),
  ];
};
