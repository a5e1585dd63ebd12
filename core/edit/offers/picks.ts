import { formKinds } from '../../forms/registry';
import { canTouch, touchLever } from '../../pipeline/chart-rules';
import { dimensionText } from '../../words/dimension-text';
import { memberCue } from '../defaults';
import { leverFor, leverOn, usesLever } from './lever-for';
import { chartIn, type OfferMaker } from './offer';

/** Lighting what is picked, and answering clicks. */
export const pickOffers: OfferMaker = ({ chart, board, dataset, words }) => {
  const form = formKinds.get(chart.form);
  const own = leverOn(board.levers, chart.dataset, chart.by, 'values');
  const offers = [];
  if (!own || !usesLever(chart, own.id, 'lights'))
    offers.push({
      id: 'light',
      text: `Lights the ${form.noun} that are picked, and answers a click on them`,
      accept: (draft: typeof board) => {
        const lever = leverFor(draft, 'pick', dataset, chart.by, 'values');
        const target = chartIn(draft, chart.id);
        target.cues.push(
          memberCue(
            lever.id,
            target.cues.map((cue) => cue.id),
          ),
        );
        if (!touchLever(target, 'click', draft.levers))
          target.touches.push({ gesture: 'click', lever: lever.id });
      },
    });
  if (own && canTouch(chart, own) && !touchLever(chart, 'click', board.levers))
    offers.push({
      id: 'touch',
      text: `Answers a click on a ${form.markNoun} by putting its ${dimensionText(chart.by, words)} into ${own.name}`,
      accept: (draft: typeof board) => {
        chartIn(draft, chart.id).touches.push({ gesture: 'click', lever: own.id });
      },
    });
  return offers;
};
