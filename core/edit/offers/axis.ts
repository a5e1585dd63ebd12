import type { Board } from '../../board/board';
import { type DatasetInfo, type FieldInfo, fieldOf } from '../../data/dataset';
import { isNumeric, isTemporal } from '../../data/values';
import { formKinds } from '../../forms/registry';
import type { ClockLever } from '../../levers/clock';
import { finerUnit, unitsOfNumbers } from '../../levers/clock-units';
import { kindOf } from '../../levers/registry';
import { type ClockUnit, clockUnits } from '../../levers/zone-time';
import { tell } from '../../messages/desk';
import { englishPlural } from '../../messages/locale';
import { dimensionText } from '../../words/dimension-text';
import { newCue, newLever } from '../defaults';
import { leverFor } from './lever-for';
import { chartIn, type Offer, type OfferMaker } from './offer';

/** The units of a clock that the categories of a chart can be; none where they are no time. */
export function clockUnitsOf(field: FieldInfo | undefined, grain: string | undefined): ClockUnit[] {
  if (!field) return [];
  if (grain) return [grain === 'day' || grain === 'week' ? 'day' : 'month'];
  if (field.type === 'integer') return unitsOfNumbers(field);
  const named = clockUnits.find((unit) => new RegExp(unit, 'i').test(`${field.key} ${field.name}`));
  return field.type === 'text' && named ? [named] : [];
}

/** The clock that a board has, made to change as often as is needed here; a new one where it has none. */
function clockFor(draft: Board, dataset: DatasetInfo, unit: ClockUnit): ClockLever {
  const found = draft.levers.find((lever): lever is ClockLever => kindOf(lever).now !== undefined);
  if (found) {
    found.unit = finerUnit(found.unit, unit);
    return found;
  }
  const made = {
    ...(newLever('clock', dataset, undefined, draft.levers, tell('leverName.now')) as ClockLever),
    unit,
  };
  draft.levers.push(made);
  return made;
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
      about: 'lights',
      use: tell('offer.axis.aStretchOfTime'),
      text: tell('offer.axis.span', { marks: form.noun, dimension, rising: rising ? 'yes' : 'no' }),
      accept(draft) {
        const grain = isTemporal(field.type) ? (chart.by.grain ?? 'day') : undefined;
        const name = tell('offer.axis.fromTo', { field: field.name });
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
      about: 'shows',
      use: tell('offer.axis.yearsOfDaysA'),
      text: tell('offer.axis.window', { categories: englishPlural(chart.by.grain ?? dimension) }),
      accept(draft) {
        const name = tell('offer.axis.inView', { field: field?.name ?? dimension });
        const lever = leverFor(draft, 'window', dataset, chart.by, 'stretch', name);
        const target = chartIn(draft, chart.id);
        target.window = { lever: lever.id, axis: 'fixed' };
        if (ordered) target.order = { by: 'key', direction: 'ascending' };
      },
    });
  const units = clockUnitsOf(field, chart.by.grain);
  for (const unit of units)
    offers.push({
      id: unit === units[0] ? 'clock' : `clock ${unit}`,
      once: { lights: 'clock' },
      about: 'lights',
      use: tell('offer.axis.thePresentHourDay'),
      text: tell('offer.axis.clock', { mark: form.markNoun, what: units.length > 1 ? unit : dimension }),
      accept(draft) {
        const lever = clockFor(draft, dataset, unit);
        const target = chartIn(draft, chart.id);
        // A period is told by the whole time; numbers and names are of one unit.
        const condition = { kind: 'clock', lever: lever.id, ...(chart.by.grain ? {} : { unit }) } as const;
        target.cues.push(newCue('now', condition, target.cues));
      },
    });
  return offers;
};
