import type { Board } from '../../board/board';
import type { Chart } from '../../board/chart';
import type { Cue } from '../../board/cue';
import { type DatasetInfo, fieldOf } from '../../data/dataset';
import { formKinds } from '../../forms/registry';
import type { NumberLever } from '../../levers/number';
import { tell } from '../../messages/desk';
import { englishPlural } from '../../messages/locale';
import { dimensionText } from '../../words/dimension-text';
import { newCue, newLever } from '../defaults';
import { byRehearsed, chartIn, type Offer, type OfferMaker } from './offer';

/** A cue by rank, with a count and a side to move. */
function rankCue(draft: Board, chart: Chart, dataset: DatasetInfo, id: string, most: number): Cue {
  const count = newLever('number', dataset, undefined, draft.levers, tell('leverName.count')) as NumberLever;
  const upTo = chart.by.grain ? 24 : { of: 'values' as const, field: chart.by.field };
  draft.levers.push({ ...count, dataset: dataset.id, min: 0, max: upTo, start: most });
  const side = newLever('choice', dataset, undefined, draft.levers, tell('leverName.side'));
  draft.levers.push(side);
  return newCue(
    id,
    {
      kind: 'rank',
      count: { lever: count.id },
      side: { lever: side.id },
      ties: 'share',
      ...byRehearsed(chart),
    },
    chartIn(draft, chart.id).cues,
  );
}

/** Of many categories twenty are kept, of few ones about half: else nothing would be seen to go. */
const keptOf = (categories: number): number =>
  categories > 24 ? 20 : Math.max(1, Math.min(5, categories - 1));

/** Lighting the first few, and keeping only those, with a count and a side to move. */
export const rankOffers: OfferMaker = ({ chart, dataset, words }) => {
  const form = formKinds.get(chart.form);
  const top: Offer = {
    id: 'top',
    once: { lights: 'rank' },
    about: 'lights',
    use: tell('offer.ranks.theLeadersOrThe'),
    text: tell('offer.ranks.lightsTheTopOr', { noun: form.noun }),
    accept: (draft) => {
      chartIn(draft, chart.id).cues.push(rankCue(draft, chart, dataset, 'top', 3));
    },
  };
  const keep: Offer = {
    id: 'keep top',
    once: { keeps: 'rank' },
    about: 'leaves out',
    use: tell('offer.ranks.twoHundredBarsBecome'),
    text: tell('offer.ranks.keepsOnlyTheTop', { by: englishPlural(dimensionText(chart.by, words)) }),
    accept: (draft) => {
      const distinct = chart.by.grain ? undefined : fieldOf(dataset, chart.by.field)?.profile?.distinct;
      const cue = rankCue(draft, chart, dataset, 'keep-top', keptOf(distinct ?? 24));
      chartIn(draft, chart.id).cues.push({ ...cue, effect: 'keep', remainder: 'gone' });
    },
  };
  return form.everyPeriod ? [top] : [top, keep];
};
