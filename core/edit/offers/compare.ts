import { formKinds } from '../../forms/registry';
import type { ChoiceLever } from '../../levers/choice';
import { tell } from '../../messages/desk';
import { compareOf } from '../../pipeline/chart-rules';
import { newLever } from '../defaults';
import { chartIn, type Offer, type OfferMaker } from './offer';

/** Comparing every mark with one that is touched, or with the same a year before. */
export const compareOffers: OfferMaker = ({ chart, dataset }) => {
  const form = formKinds.get(chart.form);
  if (chart.compare || !compareOf({ ...chart, compare: { with: 'average', as: 'difference' } })) return [];
  const touched: Offer = {
    id: 'compare',
    about: 'compares',
    use: tell('offer.compare.everyBarAgainstThe'),
    text: tell('offer.compare.comparesEachWithThe', { mark: form.markNoun }),
    accept(draft) {
      const made = newLever(
        'choice',
        dataset,
        chart.by,
        draft.levers,
        tell('offer.compare.comparedWith'),
      ) as ChoiceLever;
      draft.levers.push({ ...made, all: true, allText: 'nothing' });
      const target = chartIn(draft, chart.id);
      target.compare = { with: 'touched', lever: made.id, as: 'difference' };
      // What a click has done so far would stand in its way.
      target.touches = [
        { gesture: 'click', lever: made.id },
        ...target.touches.filter(({ gesture }) => gesture !== 'click'),
      ];
    },
  };
  if (!chart.by.grain) return [touched];
  const yearBefore: Offer = {
    id: 'compare-year',
    about: 'compares',
    use: tell('offer.compare.growthOverTheYear'),
    text: tell('offer.compare.comparesEachWithThe2', { markNoun: form.markNoun }),
    accept(draft) {
      chartIn(draft, chart.id).compare = { with: 'year', as: 'percent' };
    },
  };
  return [touched, yearBefore];
};
