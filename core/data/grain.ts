/** How finely a date is cut into periods. A period is named by the date it starts on; weeks start on Monday. */
export const grains = ['year', 'quarter', 'month', 'week', 'day'] as const;
export type Grain = (typeof grains)[number];

/** A field, cut at a grain where it is a date: what a category, a lever's list or a cube's dimension stands for. */
export interface FieldCut {
  field: string;
  grain?: Grain | undefined;
}

export const sameCut = (a: FieldCut, b: FieldCut) => a.field === b.field && a.grain === b.grain;

/** Whether the marks of a chart stand for the values of a cut: as their category, or as their series. */
export const standsFor = (
  cut: FieldCut & { dataset: string },
  chart: { dataset: string; by: FieldCut; split?: FieldCut | undefined },
) =>
  cut.dataset === chart.dataset &&
  (sameCut(cut, chart.by) || (chart.split !== undefined && sameCut(cut, chart.split)));

/** `route`, `date.month`: the readable key of a cut, used in addresses and as an identity. */
export const cutKey = (cut: FieldCut) => (cut.grain ? `${cut.field}.${cut.grain}` : cut.field);

const steps: Record<Grain, readonly number[]> = {
  year: [1, 2, 5, 10, 20, 50, 100],
  quarter: [1, 2, 4, 8, 20, 40],
  month: [1, 2, 3, 6, 12, 24, 60, 120],
  week: [1, 2, 4, 13, 26, 52, 104],
  day: [1, 2, 7, 14, 28, 91, 182, 364, 728],
};

/** How many periods apart labels may stand so that they fall on the same place in each year; any distance without a grain. */
export const labelSteps = (grain: Grain | undefined): readonly number[] => (grain ? steps[grain] : []);
