/** How finely a date is cut into periods. A period is named by the date it starts on; weeks start on Monday. */
export const grains = ['year', 'quarter', 'month', 'week', 'day'] as const;
export type Grain = (typeof grains)[number];

/** A field, cut at a grain where it is a date: what a category, a lever's list or a cube's dimension stands for. */
export interface FieldCut {
  field: string;
  grain?: Grain | undefined;
}

export const sameCut = (a: FieldCut, b: FieldCut) => a.field === b.field && a.grain === b.grain;

/** `route`, `date.month`: the readable key of a cut, used in addresses and as an identity. */
export const cutKey = (cut: FieldCut) => (cut.grain ? `${cut.field}.${cut.grain}` : cut.field);
