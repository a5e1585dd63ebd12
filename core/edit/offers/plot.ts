import { leverNameOf } from '@sorvik/formula/lever-names';
import type { Chart } from '../../board/chart';
import type { Measure } from '../../board/measure';
import { measureAsText } from '../../board/measure-as-text';
import { byMeasure } from '../../conditions/registry';
import type { DatasetInfo } from '../../data/dataset';
import { formKinds } from '../../forms/registry';
import type { NumberLever } from '../../levers/number';
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
  use: 'What would be if a rate changed, beside what is.',
  text: 'Shows values with a change applied beside the actual ones',
  accept(draft) {
    const target = chartIn(draft, id);
    const made = newLever('number', dataset, undefined, draft.levers, 'Change') as NumberLever;
    draft.levers.push({ ...made, min: -50, max: 50, step: 1, start: 10, unit: '%' });
    const now = measureAsText(measure);
    const changed: Measure = {
      ...(measure.share ? { share: measure.share } : {}),
      aggregate: 'formula',
      text: `(${now}) * (1 + :${leverNameOf(made.id)} / 100)`,
      name: 'with the change applied',
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
  use: 'Units, percent, as many decimals as count.',
  text: 'Sets the number format (unit, percent, decimals)',
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
      use: 'A title that says what is chosen.',
      text: `Names ${lever.name} in the title, with its current value`,
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
      use: 'Parts of a whole, in percent.',
      text: 'Shows values as percent of a total',
      accept(draft) {
        chartIn(draft, chart.id).measure.share = 'everything';
      },
    }),
    ...offeredIf(form.fills && !chart.figures && !chart.split, {
      id: 'figures',
      about: 'reads',
      use: 'Numbers without another column of text.',
      text: `Places value labels inside the ${form.noun}`,
      accept(draft) {
        chartIn(draft, chart.id).figures = 'inside';
      },
    }),
    ...titleOffers(context),
    ...offeredIf(chart.subtitle === undefined, {
      id: 'subtitle',
      about: 'reads',
      use: 'One line that says what the chart says now.',
      text: 'Adds a subtitle, with placeholders such as {lit} of {all}',
      accept(draft) {
        chartIn(draft, chart.id).subtitle = '{lit} of {all} lit';
      },
    }),
    ...offeredIf(!chart.legend, {
      id: 'legend',
      about: 'reads',
      use: 'Room where there is some.',
      text: 'Sets where the legend is shown',
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
                  'Starts the value axis at the lowest value',
                  'Differences that are small beside the values.',
                  { from: 'data' },
                ),
              ]),
          axis('axis-fixed', 'Sets the start and end of the value axis', 'Two charts on one scale.', {}),
          axis('axis-log', 'Uses a logarithmic value axis', 'Growth, and values of many sizes.', {
            scale: 'log',
          }),
        ]),
    ...offeredIf(canShowAnother, {
      id: 'also',
      about: 'shows',
      use: 'Two measures in one plot.',
      text: `Also shows another measure${form.secondAxis ? ', on its own axis' : ''}`,
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
      use: 'Ranks, changes, whatever can be computed.',
      text: `Labels each ${form.markNoun} with a formula`,
      accept: (draft) => {
        chartIn(draft, chart.id).beside = "CAST(RANK() OVER (ORDER BY value DESC) AS VARCHAR) || '.'";
      },
    }),
    ...offeredIf(chart.pointed === undefined, {
      id: 'pointed',
      about: 'reads',
      use: 'Details for whoever asks.',
      text: 'Adds a formula to the tooltip',
      accept: (draft) => {
        chartIn(draft, chart.id).pointed =
          "CAST(ROUND(100 * value / SUM(value) OVER (), 1) AS VARCHAR) || ' % of all'";
      },
    }),
    ...offeredIf(form.lineStates && !chart.missing, {
      id: 'missing',
      about: 'shows',
      use: 'Gaps that mean nothing, or mean zero.',
      text: 'Connects lines across missing values, or drops them to zero',
      accept: (draft) => {
        chartIn(draft, chart.id).missing = 'bridged';
      },
    }),
  ];
};
