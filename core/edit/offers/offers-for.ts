import type { Chart } from '../../board/chart';
import { axisOffers } from './axis';
import { companionOffers } from './companion';
import { compareOffers } from './compare';
import { cueOffers } from './cues';
import { filterOffers } from './filters';
import { guideOffers } from './guides';
import { limitOffers } from './limits';
import type { Offer, OfferContext, OfferMaker } from './offer';
import { pickOffers } from './picks';
import { plotOffers } from './plot';
import { rankOffers } from './ranks';
import { seriesOffers } from './series';

/** Most likely first. */
const makers: readonly OfferMaker[] = [
  pickOffers,
  rankOffers,
  limitOffers,
  axisOffers,
  cueOffers,
  filterOffers,
  seriesOffers,
  guideOffers,
  compareOffers,
  companionOffers,
  plotOffers,
];

function isSaid({ cues, guides }: Chart, once: NonNullable<Offer['once']>): boolean {
  if ('guide' in once) return guides.some(({ kind }) => kind === once.guide);
  const [wanted, kind] = 'keeps' in once ? ['keep', once.keeps] : ['light', once.lights];
  return cues.some(({ effect, condition }) => effect === wanted && condition.kind === kind);
}

/** What can still be said of a chart. */
export const offersFor = (context: OfferContext): Offer[] =>
  makers
    .flatMap((make) => make(context))
    .filter(({ once }) => once === undefined || !isSaid(context.chart, once));
