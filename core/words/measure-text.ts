import type { Category } from '../board/category';
import type { Chart } from '../board/chart';
import type { Measure } from '../board/measure';
import type { Order } from '../board/order';
import { isNumeric, isTemporal } from '../data/values';
import { tell } from '../messages/desk';
import { say } from '../messages/say';
import { dimensionText } from './dimension-text';
import { atStart } from './letter-case';
import { listed } from './plural';
import type { Word } from './sentence';
import { titleParts } from './title-parts';
import type { Vocabulary } from './vocabulary';

/** "total passengers", "average delay", "number of rows with fuel", "total passengers as a share of all there is". */
export function measureText(measure: Measure, words: Vocabulary): string {
  const { compared, ...own } = measure;
  const { locale } = words;
  if (compared) return say(locale, 'measure.compared', { how: compared, measure: measureText(own, words) });
  const text = aggregateText(measure, words);
  return measure.share ? say(locale, 'measure.share', { measure: text, of: measure.share }) : text;
}

/** What is taken of the rows, whatever is done with it. */
export function aggregateText(measure: Measure, words: Vocabulary): string {
  if (measure.aggregate === 'formula') return measure.name?.trim() || measure.text!;
  return say(words.locale, 'measure.aggregate', {
    aggregate: measure.aggregate,
    named: measure.field ? 'yes' : 'no',
    field: measure.field ? words.fieldName(measure.field) : '',
  });
}

/** The measure that a condition compares by, as a word: the chart's own, or another one. */
export const measureWord = (
  measure: Measure | undefined,
  words: Vocabulary,
  chart?: { measure?: Measure | undefined },
): Word => ({
  slot: 'otherMeasure',
  path: ['measure'],
  text: measure || chart?.measure ? measureText((measure ?? chart?.measure)!, words) : tell('measure.shown'),
  value: measure,
});

/** The measure as a heading: a sum is what everybody calls by the field's name alone. */
const measureTitle = (measure: Measure, words: Vocabulary) =>
  measure.aggregate === 'sum' && measure.field
    ? words.fieldName(measure.field)
    : aggregateText(measure, words);

/** What a chart shows of what: "passengers by route", "passengers by route, as shares of all there is". */
function ownTitle({ measure, by, split }: Chart, words: Vocabulary): string {
  const dimensions = [by, ...(split ? [split] : [])].map((dimension) => dimensionText(dimension, words));
  return say(words.locale, 'chart.title', {
    measure: measureTitle(measure, words),
    dimensions: listed(dimensions, words.locale),
    shared: measure.share ? 'yes' : 'no',
    of: measure.share ?? 'none',
  });
}

/**
 * The author's title, or what the chart says of itself: "Passengers by route". A lever that the title names reads as
 * `leverText` has it: its name where nothing is shown yet, or what it holds.
 */
export const chartTitle = (
  chart: Chart,
  words: Vocabulary,
  leverText: (id: string) => string = (id) => words.lever(id)?.name ?? `{${id}}`,
) =>
  titleParts(chart.title?.trim() ?? '')
    .map((part) => (typeof part === 'string' ? part : leverText(part.lever)))
    .join('') || atStart(ownTitle(chart, words));

/** "largest first", "earliest first", "as in the data". */
export function orderText(order: Order, by: Category, words: Vocabulary): string {
  const direction = order.direction;
  if (order.by !== 'key') return tell('order', { by: order.by, direction });
  const type = words.field(by.field)?.type;
  const nouns = words.locale.plural(dimensionText(by, words));
  const of = !type ? 'text' : isTemporal(type) ? 'time' : isNumeric(type) ? 'number' : 'text';
  return tell('order.category', { of, direction, nouns });
}

/** The order of the series, which names them: the categories of the chart have an order of their own. */
export function seriesOrderText(order: Order, split: Category, words: Vocabulary): string {
  const nouns = words.locale.plural(dimensionText(split, words));
  const text = orderText(order, split, words);
  return text.startsWith(nouns) ? text : tell('order.series', { nouns, order: text });
}
