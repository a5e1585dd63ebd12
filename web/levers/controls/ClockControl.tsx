import { type ClockLever, type ClockPosition, clockText } from '@sorvik/core/levers/clock';
import { useLanguage } from '../../ui/language';
import type { ControlProps } from '../control-kind';

/** What the clock shows; it moves by itself. */
export function ClockControl({ lever, position }: ControlProps<ClockLever, ClockPosition>) {
  const { locale, say } = useLanguage();
  const { hold, now } = position;
  return (
    <p className="sv-clock">
      <time dateTime={now}>{clockText(lever.unit, now, locale)}</time>
      <small>
        {lever.zone}
        {hold &&
          say('clock.hold', {
            runs: hold.speed === 0 ? 'no' : 'yes',
            at: hold.at.replace('T', ' '),
            speed: hold.speed,
          })}
      </small>
    </p>
  );
}
