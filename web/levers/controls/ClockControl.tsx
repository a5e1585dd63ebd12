import { type ClockLever, type ClockPosition, clockText } from '@sorvik/core/levers/clock';
import type { ControlProps } from '../control-kind';

/** What the clock shows; it moves by itself. */
export function ClockControl({ lever, position }: ControlProps<ClockLever, ClockPosition>) {
  const { hold, now } = position;
  return (
    <p className="sv-clock">
      <time dateTime={now}>{clockText(lever.unit, now)}</time>
      <small>
        {lever.zone}
        {hold && (hold.speed === 0 ? ', held' : `, from ${hold.at.replace('T', ' ')} at ${hold.speed}x`)}
      </small>
    </p>
  );
}
