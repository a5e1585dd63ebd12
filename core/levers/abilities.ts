import type { LeverAbility } from '../board/lever-ability';
import { kindOf, type Lever } from './registry';

const tests: Record<LeverAbility, (lever: Lever) => boolean> = {
  values: (lever) => kindOf(lever).values !== undefined && kindOf(lever).source?.(lever) !== undefined,
  figure: (lever) => kindOf(lever).figures?.isShare(lever) === false,
  share: (lever) => kindOf(lever).figures?.isShare(lever) === true,
  anyFigure: (lever) => kindOf(lever).figures !== undefined,
  interval: (lever) => kindOf(lever).interval !== undefined,
  stretch: (lever) => kindOf(lever).stretch !== undefined,
  isOn: (lever) => kindOf(lever).isOn !== undefined,
  side: (lever) => kindOf(lever).side !== undefined,
  now: (lever) => kindOf(lever).now !== undefined,
};

export const leverCan = (lever: Lever, ability: LeverAbility): boolean => tests[ability](lever);

const texts: Record<LeverAbility, string> = {
  values: 'holds values of a field',
  figure: 'holds a value',
  share: 'holds percentages of a range',
  anyFigure: 'holds a value',
  interval: 'holds a range',
  stretch: 'is a scrolling window',
  isOn: 'is a switch',
  side: 'names a side',
  now: 'tells the time',
};
export const abilityText = (ability: LeverAbility) => texts[ability];
