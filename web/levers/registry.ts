import { registryOf } from '@sorvik/core/kinds';
import type { ControlKind } from './control-kind';
import { PickControl } from './PickControl';

/** One control per kind of lever, of the same name as its module in core. */
export const controlKinds = registryOf<ControlKind>('control', [{ kind: 'pick', Control: PickControl }]);
