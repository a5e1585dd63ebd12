import type { LeverAbility } from '../board/lever-ability';
import { tell } from '../messages/desk';
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

/** "holds a range": what a lever must be able to do for a place. */
export const abilityText = (ability: LeverAbility): string => tell('ability', { ability });
