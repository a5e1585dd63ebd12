import { type FieldInfo, fieldOf } from '../../data/dataset';
import { isNumeric, isTemporal } from '../../data/values';
import { formKinds } from '../../forms/registry';
import type { ClockLever } from '../../levers/clock';
import type { ClockUnit } from '../../levers/zone-time';
import { dimensionText } from '../../words/dimension-text';
import { plural } from '../../words/plural';
import { newCue, newLever } from '../defaults';
import { leverFor } from './lever-for';
import { chartIn, type Offer, type OfferMaker } from './offer';

/** The unit of a clock that a field's values look like; undefined for anything else. */
export function clockUnitOf(field: FieldInfo | undefined, grain: string | undefined): ClockUnit | undefined {
  if (!field) return undefined;
  if (grain) return grain === 'day' || grain === 'week' ? 'day' : 'month';
  const found = /(second|minute|hour|weekday|month|day)/i
    .exec(`${field.key} ${field.name}`)?.[1]
    ?.toLowerCase();
  return field.type === 'integer' || field.type === 'text' ? (found as ClockUnit | undefined) : undefined;
}

/** What an ordered axis offers: a stretch to brush, a window to move, the present. */
export const axisOffers: OfferMaker = ({ chart, dataset, words }) => {
  const field = fieldOf(dataset, chart.by.field);
  const form = formKinds.get(chart.form);
  const dimension = dimensionText(chart.by, words);
  const ordered = field && (isTemporal(field.type) || isNumeric(field.type));
  const rising = chart.order.by === 'key' && chart.order.direction === 'ascending';
  const offers: Offer[] = [];
  if (ordered)
    offers.push({
      id: 'span',
      once: { lights: 'span' },
      text: `Lights the ${form.noun} in a stretch of ${dimension}${rising ? ', brushed by a drag across them' : ''}`,
      accept(draft) {
        const grain = isTemporal(field.type) ? (chart.by.grain ?? 'day') : undefined;
        const name = `${field.name} from – to`;
        const lever = leverFor(
          draft,
          'span',
          dataset,
          { field: field.key, ...(grain ? { grain } : {}) },
          'interval',
          name,
        );
        const target = chartIn(draft, chart.id);
        // A line is cut where the stretch ends; what stands by itself is touched by it or not.
        const condition = {
          kind: 'span',
          lever: lever.id,
          match: form.lineStates ? 'cut' : 'touching',
        } as const;
        target.cues.push(newCue('span', condition, target.cues));
        if (rising) target.touches.push({ gesture: 'drag', lever: lever.id });
      },
    });
  if (!chart.window)
    offers.push({
      id: 'window',
      text: `Has a window of ${chart.by.grain ? plural(chart.by.grain) : plural(dimension)} in view, moved along the axis`,
      accept(draft) {
        const name = `${field?.name ?? dimension} in view`;
        const lever = leverFor(draft, 'window', dataset, chart.by, 'stretch', name);
        const target = chartIn(draft, chart.id);
        target.window = { lever: lever.id, axis: 'fixed' };
        if (ordered) target.order = { by: 'key', direction: 'ascending' };
      },
    });
  const unit = clockUnitOf(field, chart.by.grain);
  if (unit)
    offers.push({
      id: 'clock',
      once: { lights: 'clock' },
      text: `Lights the ${form.markNoun} of the present ${dimension}`,
      accept(draft) {
        const made = newLever('clock', dataset, undefined, draft.levers, 'Now') as ClockLever;
        draft.levers.push({ ...made, unit });
        const target = chartIn(draft, chart.id);
        target.cues.push(newCue('now', { kind: 'clock', lever: made.id }, target.cues));
      },
    });
  return offers;
};
