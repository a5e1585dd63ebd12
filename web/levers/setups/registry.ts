import { registryOf } from '@sorvik/core/data/kinds';
import { ChoiceSetUp } from './ChoiceSetUp';
import { LimitsSetUp } from './LimitsSetUp';
import { NumberSetUp } from './NumberSetUp';
import { PickSetUp } from './PickSetUp';
import { SpanSetUp } from './SpanSetUp';
import type { SetUpKind } from './setup-kind';
import { ClockSetUp, SwitchSetUp, WindowSetUp } from './small-setups';

/** One set-up per kind of lever, for the bench alone. */
export const setUpKinds = registryOf<SetUpKind>('set-up', [
  { kind: 'pick', SetUp: PickSetUp },
  { kind: 'choice', SetUp: ChoiceSetUp },
  { kind: 'number', SetUp: NumberSetUp },
  { kind: 'switch', SetUp: SwitchSetUp },
  { kind: 'limits', SetUp: LimitsSetUp },
  { kind: 'span', SetUp: SpanSetUp },
  { kind: 'window', SetUp: WindowSetUp },
  { kind: 'clock', SetUp: ClockSetUp },
]);
