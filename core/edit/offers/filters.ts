import type { FieldInfo } from '../../data/dataset';
import { type Dimension, dimensionKey, type Grain } from '../../data/dimension';
import { isTemporal } from '../../data/values';
import { tell } from '../../messages/desk';
import { englishPlural } from '../../messages/locale';
import { dimensionText } from '../../words/dimension-text';
import { memberCue, newCue } from '../defaults';
import { leverFor, leverOn, usesLever } from './lever-for';
import { chartIn, type Offer, type OfferMaker } from './offer';

const filterGrains: Grain[] = ['year', 'month'];
/** A longer list is for searching, not for offering; whole numbers with more values than this are measures, not names. */
const maxOffered = { text: 2000, number: 40 };

/** The dimensions by which rows can sensibly be kept. */
const dimensionsOf = (field: FieldInfo): Dimension[] => {
  if (isTemporal(field.type)) return filterGrains.map((grain) => ({ field: field.key, grain }));
  const distinct = field.profile?.distinct ?? 0;
  const most = field.type === 'decimal' ? 0 : field.type === 'integer' ? maxOffered.number : maxOffered.text;
  return distinct >= 2 && distinct <= most ? [{ field: field.key }] : [];
};

/** Keeping only some of the rows. */
export const filterOffers: OfferMaker = ({ chart, board, dataset, words }) => {
  const offers: Offer[] = [];
  for (const field of dataset.fields) {
    for (const dimension of dimensionsOf(field)) {
      const lever = leverOn(board.levers, dataset.id, dimension, 'values');
      if (lever && usesLever(chart, lever.id, 'filters')) continue;
      const name = dimensionText(dimension, words);
      const noun = dimension.grain
        ? name.replace(dimension.grain, englishPlural(dimension.grain))
        : englishPlural(name);
      offers.push({
        id: `keep ${dimensionKey(dimension)}`,
        about: 'leaves out',
        use: tell('offer.filters.onlySomeRowsCount'),
        text: tell('offer.filters.filtersByPicked', { noun }),
        accept(draft) {
          const made = leverFor(draft, 'pick', dataset, dimension, 'values');
          const target = chartIn(draft, chart.id);
          const taken = target.cues.map((cue) => cue.id);
          target.cues.push(memberCue(made.id, taken, 'filter'));
        },
      });
    }
    if (!isTemporal(field.type)) continue;
    const day: Dimension = { field: field.key, grain: 'day' };
    const span = leverOn(board.levers, dataset.id, day, 'interval');
    if (span && usesLever(chart, span.id, 'filters')) continue;
    offers.push({
      id: `keep span ${field.key}`,
      about: 'leaves out',
      use: tell('offer.filters.onlySomeTimeCounts'),
      text: tell('offer.filters.filtersByARange', { key: words.fieldName(field.key) }),
      accept(draft) {
        const made = leverFor(draft, 'span', dataset, day, 'interval');
        const target = chartIn(draft, chart.id);
        const condition = { kind: 'span', lever: made.id, match: 'touching' } as const;
        target.cues.push({ ...newCue(`keep ${made.id}`, condition, target.cues), effect: 'filter' });
      },
    });
  }
  return offers;
};
