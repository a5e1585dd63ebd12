import { IsBoolean, IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { tell } from '../messages/desk';
import { LeverBase } from './lever-base';
import type { LeverKind } from './lever-kind';

/** On or off, in the author's two words. */
export class SwitchLever extends LeverBase {
  @IsIn(['switch'])
  kind!: 'switch';

  @IsString()
  @IsNotEmpty()
  @MaxLength(40)
  on!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(40)
  off!: string;

  @IsBoolean()
  start!: boolean;
}

export const toggle: LeverKind<SwitchLever, boolean> = {
  kind: 'switch',
  Spec: SwitchLever,
  get noun() {
    return tell('lever.switch.noun');
  },
  clearings: ['start', 'keep'],
  make: ({ id, name }) => ({
    kind: 'switch',
    id,
    name,
    on: 'on',
    off: 'off',
    start: true,
    clearing: 'start',
  }),
  start: (spec) => spec.start,
  startAt: (_spec, position) => ({ start: position }),
  isEmpty: () => false,
  same: (a, b) => a === b,
  clear: (spec, position) => (spec.clearing === 'keep' ? position : spec.start),
  toQuery: (position) => [position ? 'on' : 'off'],
  fromQuery: (_spec, [text]) => (text === 'on' ? true : text === 'off' ? false : undefined),
  settle: (_spec, position) => ({ position }),
  summary: (spec, position) => (position ? spec.on : spec.off),
  isOn: (position) => position,
  side: (position) => (position ? 1 : -1),
};
