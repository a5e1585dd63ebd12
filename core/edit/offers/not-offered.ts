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
      text: `Lights the ${form.markNoun} of the current time`,
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
        text: `Lights the ${form.noun} in a range, set by dragging across them`,
        why: `${name} has no order of its own: a range needs dates or numbers.`,
      },
    !dated && {
      id: 'segments',
      text: 'Lights the periods around events, and draws the events',
      why: `${name} is no date: events have days.`,
    },
    !dated && {
      id: 'compare-year',
      text: `Compares each ${form.markNoun} with the same period a year earlier`,
      why: `${name} is no date.`,
    },
    !chart.split &&
      !form.round && {
        id: 'one-series',
        text: 'Shows one series at a time, or lights the series that is picked or under the pointer',
        why: `There are no series yet: "Splits the ${form.noun} by .." comes first.`,
      },
    form.stacks === true &&
      !chart.split && {
        id: 'stack',
        text: `Stacks the ${form.word}`,
        why: `There are no series yet: "Splits the ${form.noun} by .." comes first.`,
      },
    !form.stacks && {
      id: 'stack',
      text: `Stacks the ${form.word}`,
      why: `${atStart(form.word)} do not stand on each other: take bars or columns.`,
    },
    !form.fills && {
      id: 'whole',
      text: `Extends each ${form.markNoun} to the total`,
      why: `${atStart(form.noun)} have no length to be extended: take bars or columns.`,
    },
    !eachItsOwn({ ...chart, colours: 'each' }) &&
      !form.round && {
        id: 'own-colours',
        text: `Gives each ${form.markNoun} a colour of its own`,
        why: `Only bars and columns of one measure, without series and not compared, have colours of their own.`,
      },
    form.everyPeriod === true && {
      id: 'keep top',
      text: `Keeps only the top or bottom N ${form.noun}`,
      why: `${atStart(form.word)} with ${form.noun} left out would lead across the gaps: take bars or columns.`,
    },
    !range && {
      id: 'limits',
      text: `Lights the ${form.noun} above and below two limits, drawn as lines`,
      why: 'This chart has no values yet, by which limits could be set.',
    },
    form.round === true && {
      id: 'line',
      text: 'Draws a line, a band or an event',
      why: `${atStart(form.word)} has no axis to draw on: take bars, columns or a line.`,
    },
  ];
  return all.filter((each) => each !== false);
}
