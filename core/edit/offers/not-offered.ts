import { fieldOf } from '../../data/dataset';
import { isNumeric, isTemporal } from '../../data/values';
import { formKinds } from '../../forms/registry';
import { eachItsOwn } from '../../pipeline/chart-rules';
import { dimensionText } from '../../words/dimension-text';
import { atStart } from '../../words/letter-case';
import { clockUnitsOf } from './axis';
import type { OfferContext } from './offer';

/** A sentence that authors look for and that a chart cannot have as it is: what it would say, and what is in its way. */
export interface NotOffered {
  id: string;
  text: string;
  why: string;
}

/** What cannot be said of a chart as it is, and why. */
export function notOffered({ chart, dataset, words, range }: OfferContext): NotOffered[] {
  const form = formKinds.get(chart.form);
  const field = fieldOf(dataset, chart.by.field);
  const name = atStart(dimensionText(chart.by, words));
  const dated = field !== undefined && isTemporal(field.type);
  const all: (NotOffered | false)[] = [
    !clockUnitsOf(field, chart.by.grain).length && {
      id: 'clock',
      text: `Lights the ${form.markNoun} of the present time`,
      why: `${name} is no time. Put a date there, or whole numbers that are hours, minutes or weekdays.`,
    },
    !dated && {
      id: 'latest',
      text: `Lights the ${form.markNoun} of the latest period`,
      why: `${name} is no date.`,
    },
    !dated &&
      !(field && isNumeric(field.type)) && {
        id: 'span',
        text: `Lights the ${form.noun} in a stretch, brushed by a drag across them`,
        why: `${name} has no order of its own: a stretch needs dates or numbers.`,
      },
    !dated && {
      id: 'segments',
      text: 'Lights the stretches between events, and draws the events',
      why: `${name} is no date: events have days.`,
    },
    !dated && {
      id: 'compare-year',
      text: `Compares every ${form.markNoun} with the same a year before`,
      why: `${name} is no date.`,
    },
    !chart.split &&
      !form.round && {
        id: 'one-series',
        text: 'Shows one series at a time, or lights the series that is picked or pointed at',
        why: `There are no series yet: "Shows ${form.word}, one for each .." comes first.`,
      },
    form.stacks === true &&
      !chart.split && {
        id: 'stack',
        text: `Stacks the ${form.word}`,
        why: `There are no series yet: "Shows ${form.word}, one for each .." comes first.`,
      },
    !form.stacks && {
      id: 'stack',
      text: `Stacks the ${form.word}`,
      why: `${atStart(form.word)} do not stand on each other: take bars or columns.`,
    },
    !form.fills && {
      id: 'whole',
      text: `Fills each ${form.markNoun} up to the total`,
      why: `${atStart(form.noun)} have no length to be filled: take bars or columns.`,
    },
    !eachItsOwn({ ...chart, colours: 'each' }) &&
      !form.round && {
        id: 'own-colours',
        text: `Gives each ${form.markNoun} a colour of its own`,
        why: `Only bars and columns of one measure, without series and not compared, have colours of their own.`,
      },
    form.everyPeriod === true && {
      id: 'keep top',
      text: `Keeps only some of the ${form.noun}, the highest or the lowest`,
      why: `${atStart(form.word)} with ${form.noun} left out would lead across the gaps: take bars or columns.`,
    },
    !range && {
      id: 'limits',
      text: `Lights the ${form.noun} above and below two limits, drawn as lines`,
      why: 'This chart has no figures yet, by which limits could be set.',
    },
    form.round === true && {
      id: 'line',
      text: 'Draws a line, a band or an event',
      why: `${atStart(form.word)} has no axis to draw on: take bars, columns or a line.`,
    },
  ];
  return all.filter((each) => each !== false);
}
