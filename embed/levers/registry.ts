import { registryOf } from '@sorvik/core/data/kinds';
import { choiceControl } from './choice-control';
import { clockControl } from './clock-control';
import type { ControlKind } from './control-kind';
import { limitsControl } from './limits-control';
import { numberControl } from './number-control';
import { pickControl } from './pick-control';
import { spanControl } from './span-control';
import { switchControl } from './switch-control';
import { windowControl } from './window-control';

/** The controls of all kinds of levers. */
export const controlKinds = registryOf<ControlKind>('control', [
  numberControl,
  limitsControl,
  switchControl,
  choiceControl,
  pickControl,
  spanControl,
  windowControl,
  clockControl,
]);
