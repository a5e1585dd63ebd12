import { leverNameOf } from '@sorvik/formula/lever-names';
import type { Chart } from '../../board/chart';
import type { Measure } from '../../board/measure';
import { measureAsText } from '../../board/measure-as-text';
import { byMeasure } from '../../conditions/registry';
import type { DatasetInfo } from '../../data/dataset';
import { formKinds } from '../../forms/registry';
import type { NumberLever } from '../../levers/number';
import { tell } from '../../messages/desk';
import { againstOf, arrangementOf } from '../../pipeline/chart-rules';
import { leverUses } from '../../pipeline/lever-uses';
import { chartTitle } from '../../words/measure-text';
import { titleLevers } from '../../words/title-parts';
import { newLever } from '../defaults';
import { fieldsByRole, measureOf } from '../field-roles';
import { chartIn, type Offer, type OfferContext, type OfferMaker, offeredIf } from './offer';

const mostFurtherMeasures = 3;

/** A measure that the chart does not show yet. */
function otherMeasure(shown: Measure, dataset: DatasetInfo): Measure {
  const field = fieldsByRole(dataset).measures.find(({ key }) => key !== shown.field);
  return field ? measureOf(field, dataset.rows) : { aggregate: 'count' };
}

/** The figures as they are, and beside them as they would be with a change that a lever sets. */
const rehearsal = ({ id, measure }: Chart, dataset: DatasetInfo): Offer => ({
  id: 'rehearsal',
  about: 'shows',
  use: tell('offer.plot.whatWouldBeIf'),
  text: tell('offer.plot.showsValuesWithA'),
  accept(draft) {
    const target = chartIn(draft, id);
    const made = newLever(
      'number',
      dataset,
      undefined,
      draft.levers,
      tell('leverName.change'),
    ) as NumberLever;
    draft.levers.push({ ...made, min: -50, max: 50, step: 1, start: 10, unit: '%' });
    const now = measureAsText(measure);
    const changed: Measure = {
      ...(measure.share ? { share: measure.share } : {}),
      aggregate: 'formula',
      text: `(${now}) * (1 + :${leverNameOf(made.id)} / 100)`,
      name: tell('offer.plot.withTheChangeApplied'),
      ...(measure.format ? { format: measure.format } : {}),
    };
    target.also = [{ measure: changed, base: 'muted' }];
    // What is lit is lit by what is rehearsed: the figures that are stand muted.
    for (const cue of target.cues) cue.condition = byMeasure(cue.condition, changed);
  },
});

const formatOffer = (id: string): Offer => ({
  id: 'format',
  about: 'reads',
  use: tell('offer.plot.unitsPercentAsMany'),
  text: tell('offer.plot.format'),
  accept(draft) {
    chartIn(draft, id).measure.format = { as: 'number' };
  },
});

/** Naming in the title what the levers of a chart hold: it reads as they stand. */
function titleOffers({ chart, board, words }: OfferContext): Offer[] {
  const named = titleLevers(chart.title ?? '');
  const speaking = leverUses(chart).filter(({ how }) => ['lights', 'filters', 'keeps'].includes(how));
  const lever = board.levers.find(
    ({ id }) => !named.includes(id) && speaking.some((use) => use.lever === id && !use.off),
  );
  if (!lever || named.length) return [];
  return [
    {
      id: 'title',
      about: 'reads',
      use: tell('offer.plot.aTitleThatSays'),
      text: tell('offer.plot.namesInTheTitle', { lever: lever.name }),
      accept(draft) {
        const target = chartIn(draft, chart.id);
        target.title = `${chart.title ?? chartTitle(chart, words)}: {${lever.id}}`;
      },
    },
  ];
}

/** How figures are written, what the value axis shows, and what stands for missing readings. */
export const plotOffers: OfferMaker = (context) => {
  const { chart, dataset } = context;
  const form = formKinds.get(chart.form);
  const always = [
    ...offeredIf(!chart.measure.format, formatOffer(chart.id)),
    ...offeredIf(!(chart.measure.share || form.round || arrangementOf(chart) === 'shares'), {
      id: 'share',
      about: 'shows',
      use: tell('offer.plot.partsOfAWhole'),
      text: tell('offer.plot.showsValuesAsPercent'),
      accept(draft) {
        chartIn(draft, chart.id).measure.share = 'everything';
      },
    }),
    ...offeredIf(form.fills && !chart.figures && !chart.split, {
      id: 'figures',
      about: 'reads',
      use: tell('offer.plot.numbersWithoutAnotherColumn'),
      text: tell('offer.plot.placesValueLabelsInside', { noun: form.noun }),
      accept(draft) {
        chartIn(draft, chart.id).figures = 'inside';
      },
    }),
    ...titleOffers(context),
    ...offeredIf(chart.subtitle === undefined, {
      id: 'subtitle',
      about: 'reads',
      use: tell('offer.plot.oneLineThatSays'),
      text: tell('offer.plot.addsASubtitleWith'),
      accept(draft) {
        chartIn(draft, chart.id).subtitle = tell('offer.plot.litOfAllLit');
      },
    }),
    ...offeredIf(!chart.legend, {
      id: 'legend',
      about: 'reads',
      use: tell('offer.plot.roomWhereThereIs'),
      text: tell('offer.plot.setsWhereTheLegend'),
      accept(draft) {
        chartIn(draft, chart.id).legend = 'right';
      },
    }),
  ];
  if (form.round) return always;
  const canShowAnother = !chart.split && !againstOf(chart) && (chart.also?.length ?? 0) < mostFurtherMeasures;
  const axis = (id: string, text: string, use: string, made: NonNullable<typeof chart.axis>): Offer => ({
    id,
    about: 'shows',
    use,
    text,
    accept: (draft) => {
      chartIn(draft, chart.id).axis = made;
    },
  });
  return [
    ...always,
    ...(chart.axis
      ? []
      : [
          ...(form.fromZero
            ? []
            : [
                axis(
                  'axis-data',
                  tell('offer.plot.startsTheValueAxis'),
                  tell('offer.plot.differencesThatAreSmall'),
                  { from: 'data' },
                ),
              ]),
          axis('axis-fixed', tell('offer.plot.setsTheStartAnd'), tell('offer.plot.twoChartsOnOne'), {}),
          axis('axis-log', tell('offer.plot.usesALogarithmicValue'), tell('offer.plot.growthAndValuesOf'), {
            scale: 'log',
          }),
        ]),
    ...offeredIf(canShowAnother, {
      id: 'also',
      about: 'shows',
      use: tell('offer.plot.twoMeasuresInOne'),
      text: tell('offer.plot.alsoShowsAnotherMeasure', { apart: form.secondAxis ? 'yes' : 'no' }),
      accept(draft) {
        const target = chartIn(draft, chart.id);
        const axis = form.secondAxis ? { axis: 'second' as const } : {};
        target.also = [...(target.also ?? []), { measure: otherMeasure(chart.measure, dataset), ...axis }];
      },
    }),
    ...offeredIf(canShowAnother && !chart.also?.length, rehearsal(chart, dataset)),
    ...offeredIf(chart.beside === undefined, {
      id: 'beside',
      about: 'reads',
      use: tell('offer.plot.ranksChangesWhateverCan'),
      text: tell('offer.plot.labelsEachWithA', { markNoun: form.markNoun }),
      accept: (draft) => {
        chartIn(draft, chart.id).beside = "CAST(RANK() OVER (ORDER BY value DESC) AS VARCHAR) || '.'";
      },
    }),
    ...offeredIf(chart.pointed === undefined, {
      id: 'pointed',
      about: 'reads',
      use: tell('offer.plot.detailsForWhoeverAsks'),
      text: tell('offer.plot.addsAFormulaTo'),
      accept: (draft) => {
        chartIn(draft, chart.id).pointed =
          "CAST(ROUND(100 * value / SUM(value) OVER (), 1) AS VARCHAR) || ' % of all'";
      },
    }),
    ...offeredIf(form.lineStates && !chart.missing, {
      id: 'missing',
      about: 'shows',
      use: tell('offer.plot.gapsThatMeanNothing'),
      text: tell('offer.plot.connectsLinesAcrossMissing'),
      accept: (draft) => {
        chartIn(draft, chart.id).missing = 'bridged';
      },
    }),
  ];
};
