import { fieldOf } from '../../data/dataset';
import { isTemporal } from '../../data/values';
import { formKinds } from '../../forms/registry';
import { cutText } from '../../words/cut-text';
import { newCue } from '../defaults';
import { chartIn, type Offer, type OfferMaker } from './offer';

const says = (chart: { cues: { condition: { kind: string } }[] }, kind: string) =>
  chart.cues.some((cue) => cue.condition.kind === kind);

/** Lighting without a lever: what is pointed at, and what is latest. */
export const cueOffers: OfferMaker = ({ chart, dataset, words }) => {
  const form = formKinds.get(chart.form);
  const field = fieldOf(dataset, chart.by.field);
  const offers: Offer[] = [];
  const add = (id: string, text: string, condition: Parameters<typeof newCue>[1]) =>
    offers.push({
      id,
      text,
      accept(draft) {
        const target = chartIn(draft, chart.id);
        target.cues.push(newCue(id, condition, target.cues));
      },
    });
  if (!says(chart, 'focus'))
    add('focus', `Lights the ${form.markNoun} that is pointed at, in passing`, { kind: 'focus' });
  if (field && isTemporal(field.type) && !says(chart, 'latest'))
    add('latest', `Lights the ${form.markNoun} of the latest ${cutText(chart.by, words)}`, {
      kind: 'latest',
      of: 'data',
    });
  if (!says(chart, 'formula'))
    add('formula', `Lights ${form.noun} where a formula holds`, {
      kind: 'formula',
      text: 'RANK() OVER (ORDER BY value DESC) <= 3',
    });
  return offers;
};
