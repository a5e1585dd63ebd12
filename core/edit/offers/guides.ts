import type { Chart } from '../../board/chart';
import type { LeverFigure } from '../../board/figure';
import { idFrom } from '../../board/id';
import { fieldOf } from '../../data/dataset';
import { isTemporal } from '../../data/values';
import { formKinds } from '../../forms/registry';
import type { Guide } from '../../guides/registry';
import { kindOf, type Lever } from '../../levers/registry';
import { tell } from '../../messages/desk';
import { standsAlong } from '../../pipeline/chart-rules';
import { leverUses } from '../../pipeline/lever-uses';
import { dimensionText } from '../../words/dimension-text';
import { eventsFor } from './events-for';
import { chartIn, type Offer, type OfferMaker } from './offer';

/** The two figures of a lever that the chart already has to do with: a corridor. */
function corridorOf(chart: Chart, levers: readonly Lever[]): LeverFigure[] {
  const used = new Set(leverUses(chart).map(({ lever }) => lever));
  const lever = levers.find((each) => used.has(each.id) && kindOf(each).figures?.parts.length === 2);
  return lever ? kindOf(lever).figures!.parts.map((part) => ({ lever: lever.id, part })) : [];
}

/** Lines, bands and events on the plot. */
export const guideOffers: OfferMaker = ({ chart, board, dataset, words }) => {
  if (formKinds.get(chart.form).round) return [];
  const [low, high] = corridorOf(chart, board.levers);
  const add = (id: string, text: string, use: string, guide: (id: string) => Guide): Offer => ({
    id,
    about: 'draws',
    use,
    text,
    accept(draft) {
      const target = chartIn(draft, chart.id);
      const taken = target.guides.map((each) => each.id);
      target.guides.push(guide(idFrom(id, taken)));
    },
  });
  const offers = [
    add('line', tell('offer.guides.drawsALineAt'), tell('offer.guides.aTargetAMean'), (id) => ({
      kind: 'line',
      id,
      at: 0,
      style: 'dashed',
    })),
    add(
      'band',
      low && high ? tell('offer.guides.drawsABandBetween') : tell('offer.guides.drawsABandUp'),
      tell('offer.guides.aRangeThatIs'),
      (id) => ({
        kind: 'band',
        id,
        ...(low && high ? { from: low, to: high } : { to: { of: 'mean' } }),
        colour: 'slate',
      }),
    ),
  ];
  const field = fieldOf(dataset, chart.by.field);
  if (field && isTemporal(field.type) && standsAlong(chart)) {
    const events = add(
      'events',
      board.events?.length ? tell('offer.guides.drawsTheEventsOf') : tell('offer.guides.drawsTwoEventsWith'),
      tell('offer.guides.whenSomethingHappenedWith'),
      (id) => ({ kind: 'event', id }),
    );
    offers.push({
      ...events,
      once: { guide: 'event' },
      accept(draft) {
        eventsFor(draft, field);
        events.accept(draft);
      },
    });
  }
  if (field && !isTemporal(field.type) && standsAlong(chart)) {
    const value = field.profile?.min ?? null;
    offers.push(
      add(
        'category',
        tell('offer.guides.highlightsOneWithA', { by: dimensionText(chart.by, words) }),
        tell('offer.guides.aNoteAtOne'),
        (id) => ({
          kind: 'category',
          id,
          value,
          colour: 'ochre',
          name: 'a note',
        }),
      ),
    );
  }
  return offers;
};
