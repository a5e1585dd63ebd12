import { tickStep } from 'd3-array';
import type { Board } from '../../board/board';
import type { Chart } from '../../board/chart';
import { idFrom } from '../../board/id';
import { type DatasetInfo, fieldOf } from '../../data/dataset';
import { formKinds } from '../../forms/registry';
import { domainOf } from '../../forms/value-axis';
import type { LimitsLever } from '../../levers/limits';
import type { NumberLever } from '../../levers/number';
import { onStep } from '../../levers/steps';
import { tell } from '../../messages/desk';
import { newCue, newLever } from '../defaults';
import { byRehearsed, chartIn, type Offer, type OfferMaker } from './offer';

/** Round bounds around a range, zero within, in about a hundred to two hundred steps; whole ones for whole figures. */
export function roundBounds({ min, max }: { min: number; max: number }, whole = false) {
  const [low, high] = domainOf({ low: Math.min(0, min), high: Math.max(0, max), scale: 'even' }, 10);
  return max > min || max !== 0
    ? { min: low, max: high, step: Math.max(whole ? 1 : 0, tickStep(low, high, 150)) }
    : { min: low, max: low + 1, step: whole ? 1 : 0.01 };
}

/** Whether all figures of a chart are whole numbers. */
function isWhole({ measure: { aggregate, field, share } }: Chart, dataset: DatasetInfo): boolean {
  if (share) return false;
  if (aggregate === 'count') return true;
  return ['sum', 'min', 'max'].includes(aggregate) && fieldOf(dataset, field ?? '')?.type === 'integer';
}

function addLine(target: Chart, name: string, lever: string, part?: 'low' | 'high'): void {
  target.guides.push({
    kind: 'line',
    id: idFrom(
      name,
      target.guides.map((guide) => guide.id),
      'line',
    ),
    at: part ? { lever, part } : { lever },
    style: 'dashed',
  });
}

/** Two cues and two lines from one pair of limits: what lies above, and what lies below. */
function sayLimits(draft: Board, chart: Chart, lever: LimitsLever): void {
  const target = chartIn(draft, chart.id);
  const kind = lever.as === 'share' ? 'position' : 'threshold';
  for (const [is, part] of [
    ['at or above', 'high'],
    ['below', 'low'],
  ] as const) {
    target.cues.push(
      newCue(
        is,
        { kind, is, limit: { lever: lever.id, part }, ...byRehearsed(target) } as never,
        target.cues,
      ),
    );
    addLine(target, tell('offer.limits.limit', { part }), lever.id, part);
  }
}

/** Lighting what lies beyond limits, which stand as lines on the plot and can be dragged there. */
export const limitOffers: OfferMaker = ({ chart, dataset, range }) => {
  const form = formKinds.get(chart.form);
  const offers: Offer[] = [];
  if (range && Number.isFinite(range.min)) {
    const bounds = roundBounds(range, isWhole(chart, dataset));
    const at = (share: number) => onStep(range.min + share * (range.max - range.min), bounds);
    offers.push(
      {
        id: 'above',
        about: 'lights',
        use: tell('offer.limits.whatPassesAMark'),
        text: tell('offer.limits.lightsTheAtOr', { noun: form.noun }),
        accept(draft) {
          const made = newLever(
            'number',
            dataset,
            undefined,
            draft.levers,
            tell('leverName.limit'),
          ) as NumberLever;
          draft.levers.push({ ...made, ...bounds, start: at(0.7) });
          const target = chartIn(draft, chart.id);
          target.cues.push(
            newCue(
              'above',
              { kind: 'threshold', is: 'at or above', limit: { lever: made.id }, ...byRehearsed(target) },
              target.cues,
            ),
          );
          addLine(target, 'limit', made.id);
        },
      },
      {
        id: 'limits',
        about: 'lights',
        use: tell('offer.limits.whatLeavesACorridor'),
        text: tell('offer.limits.lightsTheAboveAnd', { noun: form.noun }),
        accept(draft) {
          const made = newLever(
            'limits',
            dataset,
            undefined,
            draft.levers,
            tell('leverName.limits'),
          ) as LimitsLever;
          const lever: LimitsLever = {
            ...made,
            as: 'value',
            ...bounds,
            start: { low: at(0.25), high: at(0.75) },
          };
          draft.levers.push(lever);
          sayLimits(draft, chart, lever);
        },
      },
    );
  }
  offers.push({
    id: 'shares',
    about: 'lights',
    use: tell('offer.limits.theSameWhereThe'),
    text: tell('offer.limits.lightsTheAboveAnd2', { noun: form.noun }),
    accept(draft) {
      const lever = newLever(
        'limits',
        dataset,
        undefined,
        draft.levers,
        tell('offer.limits.limitsIn'),
      ) as LimitsLever;
      draft.levers.push(lever);
      sayLimits(draft, chart, lever);
    },
  });
  return offers;
};
