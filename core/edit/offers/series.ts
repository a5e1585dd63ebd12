import type { Chart } from '../../board/chart';
import { idFrom } from '../../board/id';
import { secondSigns } from '../../board/second-sign';
import { type FieldInfo, fieldOf } from '../../data/dataset';
import { isTemporal } from '../../data/values';
import { formKinds } from '../../forms/registry';
import { tell } from '../../messages/desk';
import { eachItsOwn } from '../../pipeline/chart-rules';
import { mostOwnColours } from '../../pipeline/series-looks';
import { dimensionText } from '../../words/dimension-text';
import { categoryOf } from '../defaults';
import { eventsFor } from './events-for';
import { leverFor } from './lever-for';
import { chartIn, type Offer, type OfferMaker } from './offer';

/** A chart of more series than this could not be read. */
export const mostSeries = 200;

/** Fields that part a chart into series that can be told apart. */
const splitters = (chart: Chart, fields: readonly FieldInfo[]) =>
  fields.filter(({ key, type, profile }) => {
    const distinct = profile?.distinct ?? 0;
    return (
      (type === 'text' || type === 'boolean') &&
      key !== chart.by.field &&
      distinct >= 2 &&
      distinct <= mostSeries
    );
  });

/** Parting a chart into series, lighting one of several, and showing one at a time. */
export const seriesOffers: OfferMaker = ({ chart, board, dataset, words }) => {
  const { split } = chart;
  const form = formKinds.get(chart.form);
  const offers: Offer[] = [];
  if (form.round) {
    // Each slice is a series of its own.
  } else if (!split) {
    if (!chart.by.grain && !chart.colours && eachItsOwn({ ...chart, colours: 'each' }))
      offers.push({
        id: 'own-colours',
        about: 'reads',
        use: tell('offer.series.barsThatAreKnown'),
        text: tell('offer.series.givesEachAColour', { markNoun: form.markNoun }),
        accept(draft) {
          chartIn(draft, chart.id).colours = 'each';
        },
      });
    for (const field of splitters(chart, dataset.fields))
      offers.push({
        id: `split ${field.key}`,
        about: 'shows',
        use: tell('offer.series.oneLineOrOne'),
        text: tell('offer.series.splitsTheBy', { noun: form.noun, key: words.fieldName(field.key) }),
        accept(draft) {
          const few = (field.profile?.distinct ?? 0) <= mostOwnColours;
          chartIn(draft, chart.id).split = { ...categoryOf(field), colours: few ? 'own' : 'one' };
        },
      });
  } else {
    const name = dimensionText(split, words);
    const cue = (id: string, condition: Chart['cues'][number]['condition'], extra: object) => ({
      id,
      effect: 'light' as const,
      condition,
      look: {
        colour: chart.split!.colours === 'own' ? 'series' : 'ember',
        weight: 'heavy' as const,
        onTop: true,
      },
      resting: 'plain' as const,
      ...extra,
    });
    const taken = (id: string) => chart.cues.some((each) => each.id === id);
    if (!taken('one-series'))
      offers.push({
        id: 'one-series',
        about: 'lights',
        use: tell('offer.series.oneLineInIts'),
        text: tell('offer.series.showsOneAtA', { name }),
        accept(draft) {
          const lever = leverFor(draft, 'choice', dataset, split, 'values');
          chartIn(draft, chart.id).cues.push(cue('one-series', { kind: 'member', lever: lever.id }, {}));
        },
      });
    if (!taken('picked-series'))
      offers.push({
        id: 'picked-series',
        about: 'lights',
        use: tell('offer.series.someLinesAmongForty'),
        text: tell('offer.series.lightsEachPickedAnd', { name }),
        accept(draft) {
          const lever = leverFor(draft, 'pick', dataset, split, 'values');
          const target = chartIn(draft, chart.id);
          target.cues.push(cue('picked-series', { kind: 'member', lever: lever.id }, {}));
          if (!target.touches.some(({ gesture }) => gesture === 'click'))
            target.touches.push({ gesture: 'click', lever: lever.id });
        },
      });
    if (!taken('pointed-series'))
      offers.push({
        id: 'pointed-series',
        about: 'lights',
        use: tell('offer.series.readingOneLineAfter'),
        text: tell('offer.series.lightsTheWholeUnder', { name }),
        accept(draft) {
          chartIn(draft, chart.id).cues.push(cue('pointed-series', { kind: 'focus', of: 'series' }, {}));
        },
      });
  }
  const field = fieldOf(dataset, chart.by.field);
  if (field && isTemporal(field.type))
    offers.push({
      id: 'segments',
      once: { lights: 'segment' },
      about: 'lights',
      use: tell('offer.series.beforeAndAfterSomething'),
      text: board.events?.length
        ? tell('offer.series.lightsThePeriodsAround')
        : tell('offer.series.lightsThePeriodsAround2'),
      accept(draft) {
        const events = eventsFor(draft, field);
        const looks = (['slate', 'ember', 'tide', 'kelp'] as const).map((colour, i) => ({
          colour,
          // The first stretch is told from the others by having no sign.
          ...(i ? secondSigns[i - 1] : {}),
        }));
        const target = chartIn(draft, chart.id);
        if (!target.guides.some(({ kind }) => kind === 'event'))
          target.guides.push({
            kind: 'event',
            id: idFrom(
              'events',
              target.guides.map(({ id }) => id),
            ),
          });
        target.cues.push({
          id: 'stretches',
          effect: 'light',
          condition: { kind: 'segment' },
          look: {},
          looks: looks.slice(0, events.length + 1),
          resting: 'plain',
        });
      },
    });
  if (form.fills && !chart.whole && (!split || split.arrange === 'stacked'))
    offers.push({
      id: 'whole',
      about: 'shows',
      use: tell('offer.series.howFullEachBar'),
      text: tell('offer.series.extendsEachToThe', { markNoun: form.markNoun }),
      accept(draft) {
        chartIn(draft, chart.id).whole = { of: 'everything' };
      },
    });
  if (form.stacks && split && (split.arrange ?? 'beside') === 'beside')
    offers.push({
      id: 'stack',
      about: 'shows',
      use: tell('offer.series.partsThatAddUp'),
      text: tell('offer.series.stacksTheOfEach', { word: form.word, by: dimensionText(chart.by, words) }),
      accept(draft) {
        chartIn(draft, chart.id).split!.arrange = 'stacked';
      },
    });
  if (!chart.labels)
    offers.push({
      id: 'labels',
      about: 'reads',
      use: tell('offer.series.numbersWhereTheyMatter'),
      text: tell('offer.series.labelsLitOnlyWith', { noun: form.noun }),
      accept(draft) {
        chartIn(draft, chart.id).labels = 'lit';
      },
    });
  return offers;
};
