import { leverNameOf } from '@sorvik/formula/lever-names';
import type { Board } from '../../board/board';
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
import { chartIn, type Offer, type OfferContext, type OfferMaker } from './offer';

const mostFurtherMeasures = 3;

/** A measure that the chart does not show yet. */
function otherMeasure(shown: Measure, dataset: DatasetInfo): Measure {
  const field = fieldsByRole(dataset).measures.find(({ key }) => key !== shown.field);
  return field ? measureOf(field, dataset.rows) : { aggregate: 'count' };
}

/** The figures as they are, and beside them as they would be with a change that a lever sets. */
const rehearsal = ({ id, measure }: Chart, dataset: DatasetInfo): Offer => ({
  id: 'rehearsal',
  text: 'Shows values with a change applied beside the actual ones',
  accept(draft: Board) {
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
    ...(chart.measure.format ? [] : [formatOffer(chart.id)]),
    ...(chart.measure.share || form.round || arrangementOf(chart) === 'shares'
      ? []
      : [
          {
            id: 'share',
            text: 'Shows values as percent of a total',
            accept(draft: Board) {
              chartIn(draft, chart.id).measure.share = 'everything';
            },
          },
        ]),
    ...(form.fills && !chart.figures && !chart.split
      ? [
          {
            id: 'figures',
            text: `Places value labels inside the ${form.noun}`,
            accept(draft: Board) {
              chartIn(draft, chart.id).figures = 'inside';
            },
          },
        ]
      : []),
    ...titleOffers(context),
    ...(chart.subtitle === undefined
      ? [
          {
            id: 'subtitle',
            text: 'Adds a subtitle, with placeholders such as {lit} of {all}',
            accept(draft: Board) {
              chartIn(draft, chart.id).subtitle = '{lit} of {all} lit';
            },
          },
        ]
      : []),
    ...(chart.legend
      ? []
      : [
          {
            id: 'legend',
            text: 'Sets where the legend is shown',
            accept(draft: Board) {
              chartIn(draft, chart.id).legend = 'right';
            },
          },
        ]),
  ];
  if (form.round) return always;
  const canShowAnother = !chart.split && !againstOf(chart) && (chart.also?.length ?? 0) < mostFurtherMeasures;
  const axis = (id: string, text: string, made: NonNullable<typeof chart.axis>) => ({
    id,
    text,
    accept: (draft: Board) => {
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
            : [axis('axis-data', 'Starts the value axis at the lowest value', { from: 'data' })]),
          axis('axis-fixed', 'Sets the start and end of the value axis', {}),
          axis('axis-log', 'Uses a logarithmic value axis', { scale: 'log' }),
        ]),
    ...(canShowAnother
      ? [
          {
            id: 'also',
            text: `Also shows another measure${form.secondAxis ? ', on its own axis' : ''}`,
            accept(draft: Board) {
              const target = chartIn(draft, chart.id);
              const axis = form.secondAxis ? { axis: 'second' as const } : {};
              target.also = [
                ...(target.also ?? []),
                { measure: otherMeasure(chart.measure, dataset), ...axis },
              ];
            },
          },
        ]
      : []),
    ...(canShowAnother && !chart.also?.length ? [rehearsal(chart, dataset)] : []),
    ...(chart.beside === undefined
      ? [
          {
            id: 'beside',
            text: `Labels each ${form.markNoun} with a formula`,
            accept: (draft: Board) => {
              chartIn(draft, chart.id).beside = "CAST(RANK() OVER (ORDER BY value DESC) AS VARCHAR) || '.'";
            },
          },
        ]
      : []),
    ...(chart.pointed === undefined
      ? [
          {
            id: 'pointed',
            text: 'Adds a formula to the tooltip',
            accept: (draft: Board) => {
              chartIn(draft, chart.id).pointed =
                "CAST(ROUND(100 * value / SUM(value) OVER (), 1) AS VARCHAR) || ' % of all'";
            },
          },
        ]
      : []),
    ...(form.lineStates && !chart.missing
      ? [
          {
            id: 'missing',
            text: 'Connects lines across missing values, or drops them to zero',
            accept: (draft: Board) => {
              chartIn(draft, chart.id).missing = 'bridged';
            },
          },
        ]
      : []),
  ];
};
