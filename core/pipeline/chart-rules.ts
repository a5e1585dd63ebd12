import type { Category } from '../board/category';
import type { Chart, Gesture } from '../board/chart';
import type { Compare } from '../board/compare';
import type { FurtherMeasure } from '../board/further-measure';
import type { Measure } from '../board/measure';
import type { Arrangement, Split } from '../board/split';
import { sameDimension } from '../data/dimension';
import { formKinds } from '../forms/registry';
import { kindOf, type Lever } from '../levers/registry';
import { dimensionTaken } from '../levers/touch-values';

/** Whether each bar is a series of its own, so that it has a colour of its own. */
export const eachItsOwn = ({
  form,
  split,
  also,
  compare,
  colours,
}: Pick<Chart, 'form' | 'split' | 'also' | 'compare' | 'colours'>) =>
  colours === 'each' && formKinds.get(form).fills === true && !split && !also?.length && !compare;

const slices = new WeakMap<Category, Split>();
/** What parts a chart into series: what it says, or, around a centre or in colours of their own, each category itself. */
export function splitOf(
  chart: Pick<Chart, 'form' | 'by' | 'split' | 'also' | 'compare' | 'colours'>,
): Split | undefined {
  const { form, by, split } = chart;
  if (!formKinds.get(form).round && !eachItsOwn(chart)) return split;
  const known = slices.get(by) ?? { ...by, colours: 'own' };
  slices.set(by, known);
  return known;
}

/** The second measure along which the marks of a chart stand, where its form can. */
export const againstOf = ({ form, against }: Pick<Chart, 'form' | 'against'>): Measure | undefined =>
  formKinds.get(form).against ? against : undefined;

const none: readonly FurtherMeasure[] = [];
/** The further measures of a chart, where it can show them. */
export function furtherMeasures(
  chart: Pick<Chart, 'form' | 'split' | 'against' | 'also'>,
): readonly FurtherMeasure[] {
  const possible = !chart.split && !formKinds.get(chart.form).round && !againstOf(chart);
  return (possible && chart.also) || none;
}

/** What a chart measures now: its first measure and the further ones that are not switched off. */
export const shownMeasures = (chart: Chart): { measure: Measure; also: readonly FurtherMeasure[] } => ({
  measure: chart.measure,
  also: furtherMeasures(chart).filter(({ off }) => !off),
});

/** The measure that a chart rehearses beside the one that is: what new sentences go by; undefined where it does not. */
export const rehearsedMeasure = (chart: Chart): Measure | undefined =>
  shownMeasures(chart).also.find(({ base }) => base === 'muted')?.measure;

/** What the marks of a chart are compared with, where its form can show that: one measure, on an axis from zero. */
export const compareOf = (chart: Chart): Compare | undefined =>
  !formKinds.get(chart.form).round &&
  !againstOf(chart) &&
  !furtherMeasures(chart).length &&
  arrangementOf(chart) === 'beside'
    ? chart.compare
    : undefined;

const measured = new WeakMap<readonly FurtherMeasure[], Split>();
/** By what the marks of a chart are told apart by colour: its series, or its measures. */
export function colouredBy(chart: Chart): Split | undefined {
  const also = furtherMeasures(chart);
  if (!also.length) return splitOf(chart);
  const known = measured.get(also) ?? { ...chart.by, colours: 'own' };
  measured.set(also, known);
  return known;
}

/** Whether marks stand along an axis of their categories: only there can a stretch be brushed, or an event be drawn. */
export const standsAlong = (chart: Pick<Chart, 'form' | 'against' | 'split'>): boolean => {
  const form = formKinds.get(chart.form);
  return !form.round && !againstOf(chart) && !(chart.split && form.listsReadings);
};

/** How the series of a chart stand: as it says, where its form can. */
export const arrangementOf = ({ form, split }: Pick<Chart, 'form' | 'split'>): Arrangement =>
  (formKinds.get(form).stacks && split?.arrange) || 'beside';

/** Whether the bars of a chart are filled up to a whole: single or stacked ones can be. */
export const fillsUp = (chart: Chart): boolean =>
  chart.whole !== undefined &&
  formKinds.get(chart.form).fills === true &&
  (chart.split === undefined || arrangementOf(chart) === 'stacked');

/** Whether what the marks of a chart give can be put into a lever. */
export const canTouch = (chart: Chart, lever: Lever): boolean =>
  kindOf(lever).touch?.fits(lever, chart) ?? false;

/** The lever that a gesture on the chart moves: the first named for it that takes what the marks stand for. */
export const touchLever = (chart: Chart, gesture: Gesture, levers: readonly Lever[]): Lever | undefined => {
  for (const touch of chart.touches) {
    const lever = touch.gesture === gesture && levers.find(({ id }) => id === touch.lever);
    if (lever && canTouch(chart, lever)) return lever;
  }
  return undefined;
};

/** The lever that choosing a name of a series moves: the one named for the legend, or for clicks, that takes series. */
export function legendLever(chart: Chart, levers: readonly Lever[]): Lever | undefined {
  for (const gesture of ['legend', 'click'] as const) {
    const lever = touchLever(chart, gesture, levers);
    const split = splitOf(chart);
    const taken = lever && dimensionTaken(lever, chart);
    if (split && taken && (taken === split || sameDimension(split, chart.by))) return lever;
  }
  return undefined;
}

/** The span lever that a drag across a chart brushes; bands must rise along their axis. */
export function brushLever(chart: Chart, levers: readonly Lever[]): Lever | undefined {
  if (chart.order.by !== 'key' || chart.order.direction !== 'ascending') return undefined;
  if (!standsAlong(chart)) return undefined;
  const lever = touchLever(chart, 'drag', levers);
  return lever && kindOf(lever).interval ? lever : undefined;
}
