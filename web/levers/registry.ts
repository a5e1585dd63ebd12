import { registryOf } from '@sorvik/core/data/kinds';
import type { ControlKind } from './control-kind';
import { ChoiceControl, InlineChoice } from './controls/ChoiceControl';
import { ClockControl } from './controls/ClockControl';
import { LimitsControl } from './controls/LimitsControl';
import { NumberControl } from './controls/NumberControl';
import { PickControl } from './controls/PickControl';
import { SpanControl } from './controls/SpanControl';
import { SwitchControl } from './controls/SwitchControl';
import { WindowControl } from './controls/WindowControl';

/** One control per kind of lever, of the same name as its module in core. */
export const controlKinds = registryOf<ControlKind>('control', [
  { kind: 'pick', Control: PickControl },
  { kind: 'choice', Control: ChoiceControl, Inline: InlineChoice, tells: true },
  { kind: 'number', Control: NumberControl, tells: true },
  { kind: 'switch', Control: SwitchControl, tells: true },
  { kind: 'limits', Control: LimitsControl, tells: true },
  { kind: 'span', Control: SpanControl },
  { kind: 'window', Control: WindowControl },
  { kind: 'clock', Control: ClockControl, tells: true },
]);
