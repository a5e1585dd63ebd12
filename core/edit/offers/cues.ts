import type { Condition } from '../../conditions/registry';
import { conditionKinds } from '../../conditions/registry';
import { formKinds } from '../../forms/registry';
import { tell } from '../../messages/desk';
import { dimensionText } from '../../words/dimension-text';
import { newCue } from '../defaults';
import { makeCondition, usualConditions } from './join';
import { chartIn, type OfferMaker } from './offer';

/** Lighting by each kind of condition that has no offer of its own, as the kind itself says. */
export const cueOffers: OfferMaker = ({ chart, dataset, board, words }) => {
  const { markNoun: mark, noun: marks } = formKinds.get(chart.form);
  const nouns = { mark, marks, category: dimensionText(chart.by, words) };
  return usualConditions(chart, dataset, board).flatMap(({ kind, text }) => {
    const { usual } = conditionKinds.get(kind);
    if (!usual?.offer) return [];
    return [
      {
        id: kind,
        once: { lights: kind as Condition['kind'] },
        about: 'lights',
        use: usual.offer.use(),
        text: usual.offer.text?.(nouns) ?? tell('offer.lights', { marks, condition: text }),
        accept(draft) {
          const target = chartIn(draft, chart.id);
          target.cues.push(newCue(kind, makeCondition(kind, draft, target, dataset), target.cues));
        },
      },
    ];
  });
};
