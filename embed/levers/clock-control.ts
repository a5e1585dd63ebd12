import { type ClockLever, type ClockPosition, clockText } from '@sorvik/core/levers/clock';
import type { ControlHost, ControlKind, LeverStanding } from './control-kind';

/** What the clock shows; it moves by itself. */
export const clockControl: ControlKind = {
  kind: 'clock',
  tells: true,
  make({ locale }: ControlHost<ClockPosition>) {
    const time = document.createElement('time');
    return {
      element: time,
      show({ lever, position: { now } }: LeverStanding<ClockLever, ClockPosition>) {
        time.dateTime = now;
        time.textContent = clockText(lever.unit, now, locale);
      },
    };
  },
};
