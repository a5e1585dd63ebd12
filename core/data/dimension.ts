/** How finely a date is cut into periods. A period is named by the date it starts on; weeks start on Monday. */
export const grains = ['year', 'quarter', 'month', 'week', 'day'] as const;
export type Grain = (typeof grains)[number];

/** A field, with a grain where it is a date: what a category, a lever's list or the cells of a cube go by. */
export interface Dimension {
  field: string;
  grain?: Grain | undefined;
}

export const sameDimension = (a: Dimension, b: Dimension) => a.field === b.field && a.grain === b.grain;

/** Whether each period, or day, of a dimension lies in one of a wider one of the same field: months in years. */
export const isWider = (wide: Dimension, narrow: Dimension): boolean =>
  wide.field === narrow.field &&
  wide.grain !== undefined &&
  (narrow.grain === undefined || grains.indexOf(wide.grain) < grains.indexOf(narrow.grain));

/** Whether the marks of a chart stand for the values of a dimension: as their category, or as their series. */
export const standsFor = (
  dimension: Dimension & { dataset: string },
  chart: { dataset: string; by: Dimension; split?: Dimension | undefined },
) =>
  dimension.dataset === chart.dataset &&
  (sameDimension(dimension, chart.by) ||
    (chart.split !== undefined && sameDimension(dimension, chart.split)));

/** `route`, `date.month`: the readable key of a dimension, used in addresses and as an identity. */
export const dimensionKey = (dimension: Dimension) =>
  dimension.grain ? `${dimension.field}.${dimension.grain}` : dimension.field;

/** The dimension that such a key names. */
export function dimensionFromKey(key: string): { field: string; grain?: Grain } {
  const [field = '', grain] = key.split('.');
  return grains.includes(grain as Grain) ? { field, grain: grain as Grain } : { field };
}

const steps: Record<Grain, readonly number[]> = {
  year: [1, 2, 5, 10, 20, 50, 100],
  quarter: [1, 2, 4, 8, 20, 40],
  month: [1, 2, 3, 6, 12, 24, 60, 120],
  week: [1, 2, 4, 13, 26, 52, 104],
  day: [1, 2, 7, 14, 28, 91, 182, 364, 728],
};

/** How many periods apart labels may stand so that they fall on the same place in each year; any distance without a grain. */
export const labelSteps = (grain: Grain | undefined): readonly number[] => (grain ? steps[grain] : []);
