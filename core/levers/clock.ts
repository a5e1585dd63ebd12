import { Own } from '../board/validation';
import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { IsIn } from 'class-validator';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { LeverBase } from './lever-base';
import type { LeverKind } from './lever-kind';
import {
  type ClockUnit,
  clockUnits,
  instantOf,
  isZone,
  localFromText,
  localText,
  localTime,
} from './zone-time';

/** Held at a time of its zone, or running on from there at a speed; `since` is when that began, ms since 1970. */
export interface ClockHold {
  at: string;
  /** Seconds of the clock to a real second; 0 stands still. */
  speed: number;
  since: number;
}

/** What the clock shows, `YYYY-MM-DDTHH:MM:SS` in its zone; empty until it has been looked at. */
export interface ClockPosition {
  now: string;
  hold: ClockHold | null;
}

const IsZone = () =>
  Own({
    name: 'isZone',
    validate: isZone,
    message: 'check.zone',
    schema: { type: 'string', maxLength: 64, pattern: '^[A-Za-z][A-Za-z0-9_+/-]*$' },
  });

/** The present second, minute, hour, weekday, day or month in a time zone. */
export class ClockLever extends LeverBase {
  @IsIn(['clock'])
  kind!: 'clock';

  @IsIn(clockUnits)
  unit!: ClockUnit;

  @IsZone()
  zone!: string;
}

/** The fastest a clock can be let run: an hour in a second. */
export const mostSpeed = 3600;

const live: ClockPosition = { now: '', hold: null };

/** The instant a clock shows when it really is `real`, ms since 1970. */
export function clockInstant(spec: ClockLever, hold: ClockHold | null, real: number): number {
  const at = hold && localFromText(hold.at);
  if (!hold || !at) return real;
  return instantOf(at, spec.zone) + Math.max(0, real - hold.since) * hold.speed;
}

/** The position of a clock as it is at a real instant. */
export const clockAt = (spec: ClockLever, hold: ClockHold | null, real: number): ClockPosition => ({
  now: localText(localTime(clockInstant(spec, hold, real), spec.zone)),
  hold,
});

/** How a unit of a time reads: "10:59:58", "10 h", "Wed", "5 Mar", "Mar 2024". */
export function clockText(unit: ClockUnit, now: string, locale: Locale): string {
  const time = localFromText(now);
  if (!time) return '…';
  const date = new Date(`${now}Z`);
  if (unit === 'second') return now.slice(11, 19);
  if (unit === 'minute') return now.slice(11, 16);
  if (unit === 'hour') return say(locale, 'clock.hour', { hour: time.hour });
  return locale.date(date, unit === 'day' ? 'dayOfYear' : unit);
}

export const clock: LeverKind<ClockLever, ClockPosition> = {
  kind: 'clock',
  Spec: ClockLever,
  get noun() {
    return tell('lever.clock.noun');
  },
  clearings: ['start', 'keep'],
  make: ({ id, name }) => ({ kind: 'clock', id, name, unit: 'hour', zone: 'UTC', clearing: 'start' }),
  start: () => live,
  startAt: () => ({}),
  isEmpty: (position) => position.now === '',
  same: (a, b) => (a.hold?.at ?? '') === (b.hold?.at ?? '') && (a.hold?.speed ?? 0) === (b.hold?.speed ?? 0),
  clear: (_spec, position) => position,
  toQuery: ({ hold }) => (hold ? [hold.at, `${hold.speed}x`] : ['']),
  fromQuery(_spec, [at = '', speed = '0x']) {
    if (at === '') return live;
    const pace = Number.parseFloat(speed);
    if (!localFromText(at) || !(pace >= 0 && pace <= mostSpeed)) return undefined;
    return { now: at, hold: { at, speed: pace, since: 0 } };
  },
  settle: (_spec, position) => ({ position }),
  summary(spec, { now, hold }, _facts, locale) {
    const time = clockText(spec.unit, now, locale);
    if (!hold) return time;
    return say(locale, 'clock.held', { time, runs: hold.speed === 0 ? 'no' : 'yes', speed: hold.speed });
  },
  // A hold that comes from an address begins to run when it is seen.
  atInstant: (spec, position, real) =>
    clockAt(spec, position?.hold ? { ...position.hold, since: position.hold.since || real } : null, real),
  changesWith: ({ unit }) => unit,
  now(spec, { now }) {
    const time = localFromText(now);
    return time && { time, unit: spec.unit };
  },
};
