import { leverOf } from '../board/board';
import { plainMeasure } from '../board/measure';
import { restCategory } from '../data/kept-categories';
import { formKinds } from '../forms/registry';
import { positionText } from '../levers/position-text';
import { eachItsOwn } from '../pipeline/chart-rules';
import { totalOf } from '../pipeline/shares';
import type { ChartResult } from '../pipeline/stage';
import { figureWriter } from '../words/figure-writer';
import { atStart } from '../words/letter-case';
import { subtitleText } from '../words/subtitle';
import { type Vocabulary, vocabularyOf } from '../words/vocabulary';
import { captionText } from './caption';
import { comparedText, notComparedText } from './compared-text';
import { type LegendEntry, legendOf } from './legend';
import { whyText } from './why';

/** The words in which a result is told: those of its board and dataset. */
export const wordsOf = ({ input: { board, dataset, engine } }: ChartResult): Vocabulary =>
  vocabularyOf(board, dataset, engine);

/** What the looks on a chart mean. */
export function chartLegend(result: ChartResult, { still = false } = {}): LegendEntry[] {
  const { chart, readings, scene, emphasis, context, seriesNames, seriesLook } = result;
  const { lever, positionOf, today, engine } = context;
  // Beside their lines or bars, or over the columns of a table.
  const named =
    scene.namesFrom !== undefined ||
    eachItsOwn(chart) ||
    (formKinds.get(chart.form).listsReadings === true && readings.judged !== undefined);
  // Without the readings: a legend says a formula's limit in words, where a figure would be of this moment.
  const levers = { lever, positionOf, today, engine };
  return legendOf(chart, readings, emphasis, levers, wordsOf(result), seriesNames, seriesLook, {
    named,
    still,
  });
}

/** What stands under the title of a chart, its live words as they are now; empty where there is nothing. */
export function chartSubtitle(result: ChartResult): string {
  const { input, chart, emphasis, judged, filters, formulas } = result;
  const { board, positionOf, facts, cube } = input;
  const words = wordsOf(result);
  const live = {
    lit: emphasis.litReadings,
    all: judged.category.filter((category) => category !== restCategory).length,
    total() {
      const { measure } = input.chart;
      // Of shares the total is what they are shares of.
      const over = measure.share === 'everything' ? [] : filters;
      const total = totalOf(cube, plainMeasure(measure), over, formulas);
      return figureWriter(measure.share ? undefined : measure.format, words.locale).full(total);
    },
    lever(id: string) {
      const lever = leverOf(board, id);
      return lever ? positionText(lever, positionOf(id), facts[id], words) : `{${id}}`;
    },
  };
  return subtitleText(chart.subtitle ?? '', live, words.locale);
}

/** What is lit, in one or two sentences with figures. */
export function chartCaption(result: ChartResult): string {
  const { chart, filters, readings, emphasis, compared, notCompared, value } = result;
  const words = wordsOf(result);
  const said = captionText(chart, filters, readings, emphasis, words, compared ? value : undefined);
  if (notCompared) return `${notComparedText(chart, notCompared, words)} ${said}`;
  return compared ? `${atStart(comparedText(chart, compared, words))}. ${said}` : said;
}

/** Why a mark is lit, muted or plain, with numbers. */
export const markReason = (result: ChartResult, mark: number): string =>
  whyText(result.chart, result.emphasis, result.context, mark, wordsOf(result));
