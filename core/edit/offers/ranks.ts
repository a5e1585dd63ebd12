import { formKinds } from '../../forms/registry';
import type { NumberLever } from '../../levers/number';
import { newCue, newLever } from '../defaults';
import { byRehearsed, chartIn, type OfferMaker } from './offer';

/** Lighting the first few, with a count and a side to move. */
export const rankOffers: OfferMaker = ({ chart, dataset }) => {
  const form = formKinds.get(chart.form);
  return [
    {
      id: 'top',
      once: { lights: 'rank' },
      text: `Lights the ${form.noun} within a count, the highest or the lowest`,
      accept(draft) {
        const count = newLever('number', dataset, undefined, draft.levers, 'Count') as NumberLever;
        const upTo = chart.by.grain ? 24 : { of: 'values' as const, field: chart.by.field };
        draft.levers.push({ ...count, dataset: dataset.id, min: 0, max: upTo });
        const side = newLever('choice', dataset, undefined, draft.levers, 'Side');
        draft.levers.push(side);
        const target = chartIn(draft, chart.id);
        target.cues.push(
          newCue(
            'top',
            {
              kind: 'rank',
              count: { lever: count.id },
              side: { lever: side.id },
              ties: 'share',
              ...byRehearsed(chart),
            },
            target.cues,
          ),
        );
      },
    },
  ];
};
