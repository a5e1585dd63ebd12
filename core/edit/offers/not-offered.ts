import { fieldOf } from '../../data/dataset';
import { isNumeric, isTemporal } from '../../data/values';
import { formKinds } from '../../forms/registry';
import { tell } from '../../messages/desk';
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
      text: tell('offer.notOffered.lightsTheOfThe', { markNoun: form.markNoun }),
      why: tell('offer.notOffered.isNoTimePut', { name }),
    },
    !dated && {
      id: 'latest',
      text: tell('offer.notOffered.lightsTheOfThe2', { markNoun: form.markNoun }),
      why: tell('offer.notOffered.isNoDate', { name }),
    },
    !dated &&
      !(field && isNumeric(field.type)) && {
        id: 'span',
        text: tell('offer.notOffered.lightsTheInA', { noun: form.noun }),
        why: tell('offer.notOffered.hasNoOrderOf', { name }),
      },
    !dated && {
      id: 'segments',
      text: tell('offer.notOffered.lightsThePeriodsAround'),
      why: tell('offer.notOffered.isNoDateEvents', { name }),
    },
    !dated && {
      id: 'compare-year',
      text: tell('offer.notOffered.comparesEachWithThe', { markNoun: form.markNoun }),
      why: tell('offer.notOffered.isNoDate', { name }),
    },
    !chart.split &&
      !form.round && {
        id: 'one-series',
        text: tell('offer.notOffered.showsOneSeriesAt'),
        why: tell('offer.notOffered.thereAreNoSeries', { noun: form.noun }),
      },
    form.stacks === true &&
      !chart.split && {
        id: 'stack',
        text: tell('offer.notOffered.stacksThe', { word: form.word }),
        why: tell('offer.notOffered.thereAreNoSeries', { noun: form.noun }),
      },
    !form.stacks && {
      id: 'stack',
      text: tell('offer.notOffered.stacksThe', { word: form.word }),
      why: tell('offer.notOffered.doNotStandOn', { word: atStart(form.word) }),
    },
    !form.fills && {
      id: 'whole',
      text: tell('offer.notOffered.extendsEachToThe', { markNoun: form.markNoun }),
      why: tell('offer.notOffered.haveNoLengthTo', { noun: atStart(form.noun) }),
    },
    !eachItsOwn({ ...chart, colours: 'each' }) &&
      !form.round && {
        id: 'own-colours',
        text: tell('offer.notOffered.givesEachAColour', { markNoun: form.markNoun }),
        why: tell('colours.unfit', { marks: tell('offer.notOffered.barsAndColumns') }),
      },
    form.everyPeriod === true && {
      id: 'keep top',
      text: tell('offer.notOffered.keepsOnlyTheTop', { noun: form.noun }),
      why: tell('offer.notOffered.withLeftOutWould', { word: atStart(form.word), noun: form.noun }),
    },
    !range && {
      id: 'limits',
      text: tell('offer.notOffered.lightsTheAboveAnd', { noun: form.noun }),
      why: tell('offer.notOffered.thisChartHasNo'),
    },
    form.round === true && {
      id: 'line',
      text: tell('offer.notOffered.drawsALineA'),
      why: tell('offer.notOffered.hasNoAxisTo', { word: atStart(form.word) }),
    },
  ];
  return all.filter((each) => each !== false);
}
