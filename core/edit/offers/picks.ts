import { type Board, leverOf } from '../../board/board';
import { conditionKinds } from '../../conditions/registry';
import { standsFor } from '../../data/dimension';
import { formKinds } from '../../forms/registry';
import { leverCan } from '../../levers/abilities';
import { kindOf, type Lever } from '../../levers/registry';
import { tell } from '../../messages/desk';
import { canTouch, touchLever } from '../../pipeline/chart-rules';
import { dimensionText } from '../../words/dimension-text';
import { memberCue } from '../defaults';
import { leverFor, leverOn, usesLever } from './lever-for';
import { chartIn, type Offer, type OfferContext, type OfferMaker } from './offer';

/** Lighting what is picked, and answering clicks. */
export const pickOffers: OfferMaker = ({ chart, board, dataset, words }) => {
  const form = formKinds.get(chart.form);
  const own = leverOn(board.levers, chart.dataset, chart.by, 'values');
  const offers: Offer[] = [];
  if (!own || !usesLever(chart, own.id, 'lights'))
    offers.push({
      id: 'light',
      about: 'lights',
      use: tell('offer.picks.viewersPickSomeIn'),
      text: tell('offer.picks.lightsPickedAndPicks', { noun: form.noun }),
      accept: (draft) => {
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
      about: 'lights',
      use: tell('offer.picks.theChartMovesA'),
      text: tell('offer.picks.onAClickOn', {
        markNoun: form.markNoun,
        own: own.name,
        by: dimensionText(chart.by, words),
      }),
      accept: (draft) => {
        chartIn(draft, chart.id).touches.push({ gesture: 'click', lever: own.id });
      },
    });
  return [...offers, ...widerOffers({ chart, board, dataset, words })];
};

/** Levers that can hold values; those of marks themselves are offered above. */
const othersWithValues = ({ chart, board }: OfferContext): Lever[] =>
  board.levers.filter((lever) => {
    const source = kindOf(lever).source?.(lever);
    return (
      source &&
      leverCan(lever, 'values') &&
      !standsFor(source, chart) &&
      !usesLever(chart, lever.id, 'lights')
    );
  });

/** Lighting the marks that belong to something wider: the months of picked years, the quays of a region. */
function widerOffers(context: OfferContext): Offer[] {
  const { chart, board, dataset, words } = context;
  const { markNoun, noun } = formKinds.get(chart.form);
  const lit = (draft: Board, lever: string) => {
    const { cues } = chartIn(draft, chart.id);
    cues.push(
      memberCue(
        lever,
        cues.map((cue) => cue.id),
      ),
    );
  };
  const known = othersWithValues(context).flatMap((lever): Offer[] => {
    const condition = { kind: 'member', lever: lever.id } as const;
    const kind = conditionKinds.get(condition.kind);
    if (kind.unfit(condition, chart, (id) => leverOf(board, id), words) !== null) return [];
    const source = kindOf(lever).source!(lever)!;
    return [
      {
        id: `light by ${lever.id}`,
        about: 'lights',
        use: tell('offer.picks.aListThatAnother'),
        text: tell('offer.picks.lightsTheWhoseIs', {
          noun,
          source: dimensionText(source, words),
          lever: lever.name,
        }),
        accept: (draft) => lit(draft, lever.id),
      },
    ];
  });
  const { grain } = chart.by;
  const year = { field: chart.by.field, grain: 'year' } as const;
  if (!grain || grain === 'year' || leverOn(board.levers, dataset.id, year, 'values')) return known;
  return [
    ...known,
    {
      id: 'light years',
      about: 'lights',
      use: tell('offer.picks.oneYearAmongSeveral'),
      text: tell('offer.picks.lightsEachOfPicked', { markNoun }),
      accept: (draft) => lit(draft, leverFor(draft, 'pick', dataset, year, 'values').id),
    },
  ];
}
