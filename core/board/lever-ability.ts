/** What a lever can be used for. */
export const leverAbilities = [
  'values',
  'figure',
  'share',
  'anyFigure',
  'interval',
  'stretch',
  'isOn',
  'side',
  'now',
] as const;
export type LeverAbility = (typeof leverAbilities)[number];
