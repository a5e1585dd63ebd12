/** A wall clock's reading, without a zone. `weekday` is 1 for Monday to 7 for Sunday. */
export interface LocalTime {
  year: number;
  month: number;
  day: number;
  hour: number;
  minute: number;
  second: number;
  weekday: number;
}

export const clockUnits = ['second', 'minute', 'hour', 'weekday', 'day', 'month'] as const;
export type ClockUnit = (typeof clockUnits)[number];

const formats = new Map<string, Intl.DateTimeFormat>();

function formatFor(zone: string): Intl.DateTimeFormat {
  let format = formats.get(zone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-GB', {
      timeZone: zone,
      calendar: 'iso8601',
      hourCycle: 'h23',
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
    });
    formats.set(zone, format);
  }
  return format;
}

/** Whether a name is an IANA time zone that is known here. */
export function isZone(zone: unknown): zone is string {
  try {
    return typeof zone === 'string' && zone.length <= 64 && formatFor(zone) !== undefined;
  } catch {
    return false;
  }
}

const weekdayOf = (year: number, month: number, day: number) =>
  ((new Date(Date.UTC(year, month - 1, day)).getUTCDay() + 6) % 7) + 1;

/** What a clock in a time zone shows at an instant, ms since 1970. */
export function localTime(instant: number, zone: string): LocalTime {
  const part: Record<string, number> = {};
  for (const { type, value } of formatFor(zone).formatToParts(instant)) part[type] = Number(value);
  const { year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0 } = part;
  return { year, month, day, hour, minute, second, weekday: weekdayOf(year, month, day) };
}

const two = (n: number) => String(n).padStart(2, '0');
const asUtc = (t: LocalTime) => Date.UTC(t.year, t.month - 1, t.day, t.hour, t.minute, t.second);

/** `YYYY-MM-DDTHH:MM:SS`. */
export const localText = (t: LocalTime): string =>
  `${String(t.year).padStart(4, '0')}-${two(t.month)}-${two(t.day)}T${two(t.hour)}:${two(t.minute)}:${two(t.second)}`;

/** Reads `YYYY-MM-DDTHH:MM[:SS]`; null where that is no time. */
export function localFromText(text: string): LocalTime | null {
  const found = /^(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d)(?::(\d\d))?$/.exec(text);
  if (!found) return null;
  const [year, month, day, hour, minute, second] = found.slice(1).map((n) => Number(n ?? 0)) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const time = { year, month, day, hour, minute, second: second || 0, weekday: weekdayOf(year, month, day) };
  return localText(time) === new Date(asUtc(time)).toISOString().slice(0, 19) ? time : null;
}

/** The instant at which a clock in a zone shows a time; the first of two when clocks are put back. */
export function instantOf(time: LocalTime, zone: string): number {
  const wanted = asUtc(time);
  const day = 86_400_000;
  const offsets = [wanted - day, wanted, wanted + day].map((near) => asUtc(localTime(near, zone)) - near);
  const fits = offsets.map((offset) => wanted - offset).filter((at) => asUtc(localTime(at, zone)) === wanted);
  // A time that is skipped when clocks are put forward is shown an hour later.
  return fits.length ? Math.min(...fits) : wanted - offsets[0]!;
}

const shown: Record<ClockUnit, (t: LocalTime) => string> = {
  second: localText,
  minute: (t) => localText(t).slice(0, 16),
  hour: (t) => localText(t).slice(0, 13),
  weekday: (t) => localText(t).slice(0, 10),
  day: (t) => localText(t).slice(0, 10),
  month: (t) => localText(t).slice(0, 7),
};
const longest: Record<ClockUnit, number> = {
  second: 1000,
  minute: 60_000,
  hour: 2 * 3_600_000 + 1000,
  weekday: 26 * 3_600_000,
  day: 26 * 3_600_000,
  month: 32 * 86_400_000,
};

/**
 * The first instant after `instant` at which a clock of this unit shows something else, ms; found by halving, so that
 * it is right across changes of the clocks.
 */
export function nextBoundary(instant: number, unit: ClockUnit, zone: string): number {
  const second = Math.floor(instant / 1000) * 1000;
  if (unit === 'second') return second + 1000;
  const before = shown[unit](localTime(instant, zone));
  let low = second;
  let high = second + longest[unit];
  while (high - low > 1000) {
    const middle = Math.floor((low + high) / 2000) * 1000;
    if (shown[unit](localTime(middle, zone)) === before) low = middle;
    else high = middle;
  }
  return high;
}
