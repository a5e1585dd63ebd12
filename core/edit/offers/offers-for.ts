import type { Chart } from '../../board/chart';
import { axisOffers } from './axis';
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
  plotOffers,
];

const isSaid = ({ cues, guides }: Chart, once: NonNullable<Offer['once']>): boolean =>
  'guide' in once
    ? guides.some(({ kind }) => kind === once.guide)
    : cues.some(({ effect, condition }) => effect === 'light' && condition.kind === once.lights);

/** What can still be said of a chart. */
export const offersFor = (context: OfferContext): Offer[] =>
  makers
    .flatMap((make) => make(context))
    .filter(({ once }) => once === undefined || !isSaid(context.chart, once));
