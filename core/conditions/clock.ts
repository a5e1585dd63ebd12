import { IsIn } from 'class-validator';
import type { Category } from '../board/category';
import { IsId } from '../board/id';
import { IsOptional } from '../board/validation';
import { periodStart } from '../data/periods';
import type { KeyValue } from '../data/values';
import { clockText } from '../levers/clock';
import { tells, unitRanges } from '../levers/clock-units';
import type { LeverContext } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import { type ClockUnit, clockUnits, type LocalTime, localText } from '../levers/zone-time';
import { tell } from '../messages/desk';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { optionWord, sentenceParts } from '../words/sentence';
import { type Claim, type ConditionKind, verdicts } from './condition-kind';

/** Met by the mark whose period contains the clock's now. */
export class ClockCondition {
  @IsIn(['clock'])
  kind!: 'clock';

  @IsId()
  lever!: string;

  /** What the numbers or names on the axis are; what the clock shows where it is left out. */
  @IsOptional()
  @IsIn(clockUnits)
  unit?: ClockUnit;
}

const weekdays = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const months = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
];

const named = (names: string[], index: number, value: string) => {
  const text = value.trim().toLowerCase();
  const name = names[index - 1]!;
  return text === name || (text.length === 3 && name.startsWith(text));
};

/** Whether a category is what the clock shows: by its period, by its number (Monday is 1), or by its name. */
export function isNow(value: KeyValue, by: Category, unit: ClockUnit, now: LocalTime): boolean {
  if (value === null) return false;
  if (by.grain) return value === periodStart(localText(now).slice(0, 10), by.grain);
  if (typeof value === 'number') return value === now[unit];
  if (typeof value !== 'string') return false;
  if (unit === 'weekday' && named(weekdays, now.weekday, value)) return true;
  if (unit === 'month' && named(months, now.month, value)) return true;
  const text = localText(now);
  if (/^\d{4}-\d\d-\d\d$/.test(value)) return value === text.slice(0, 10);
  if (/^\d{1,2}:\d\d(:\d\d)?$/.test(value)) {
    const padded = value.padStart(value.length < 6 ? 5 : 8, '0');
    const shown = unit === 'hour' ? `${text.slice(11, 13)}:00` : text.slice(11, 11 + padded.length);
    return shown.slice(0, padded.length) === padded;
  }
  return value.trim() !== '' && Number(value) === now[unit];
}

function nowOf(spec: ClockCondition, { lever, positionOf }: LeverContext) {
  const source = lever(spec.lever);
  const position = positionOf(spec.lever);
  const now = source && position !== undefined ? kindOf(source).now?.(source, position) : undefined;
  return now ? { ...now, unit: spec.unit ?? now.unit } : null;
}

interface ClockClaim extends Claim {
  key: KeyValue;
  lever: string;
  /** What the clock shows; null while it is not read. */
  shows: { unit: ClockUnit; now: string } | null;
}

export const clock: ConditionKind<ClockCondition, ClockClaim> = {
  kind: 'clock',
  Spec: ClockCondition,
  levers: (spec) => [spec.lever],
  needs: (spec) => [{ lever: spec.lever, ability: 'now' }],
  usual: {
    text: () => tell('clock.usual'),
    make: (need) => ({ kind: 'clock', lever: need('now') }),
  },
  restText: (locale) => say(locale, 'rest.clock'),
  evaluate(spec, context) {
    const { readings, by } = context;
    const verdict = new Uint8Array(readings.length);
    const clock = nowOf(spec, context);
    if (!clock) return { active: false, verdict };
    const known = Uint8Array.from(readings.places, (key) =>
      key === null ? verdicts.unknown : isNow(key, by, clock.unit, clock.time) ? verdicts.yes : verdicts.no,
    );
    for (let i = 0; i < verdict.length; i++) verdict[i] = known[readings.place[i]!]!;
    return {
      active: true,
      verdict,
      ...(verdict.includes(verdicts.yes) ? {} : { note: (locale: Locale) => say(locale, 'note.noneNow') }),
    };
  },
  claim(spec, context, index) {
    const clock = nowOf(spec, context);
    const key = context.readings.category[index]!;
    const known = clock !== null && key !== null;
    const is = known && isNow(key, context.by, clock.unit, clock.time);
    return {
      says: 'clock',
      verdict: !known ? verdicts.unknown : is ? verdicts.yes : verdicts.no,
      key,
      lever: spec.lever,
      shows: clock && { unit: clock.unit, now: localText(clock.time) },
    };
  },
  claimText({ verdict, key, lever, shows }, words) {
    const { locale } = words;
    if (verdict === verdicts.unknown || !shows) return say(locale, 'claim.noTimeKnown');
    return say(locale, 'claim.now', {
      key: words.key(key),
      is: verdict === verdicts.yes ? 'yes' : 'no',
      lever: words.lever(lever),
      shows: clockText(shows.unit, shows.now, locale),
    });
  },
  legend(spec, context, { locale }) {
    const clock = nowOf(spec, context);
    const now = clock ? clockText(clock.unit, localText(clock.time), locale) : '';
    return [say(locale, 'legend.now', { known: clock ? 'yes' : 'no', now })];
  },
  filters: () => null,
  rowFilter: () => null,
  unfit({ lever: id, unit }, { by }, lever, words) {
    const clock = lever(id);
    const shown = clock && kindOf(clock).changesWith?.(clock);
    const wanted = unit ?? shown;
    if (!clock || !shown || !wanted || by.grain) return null;
    if (!tells(shown, wanted)) return tell('clock.coarse', { clock: clock.name, shown, wanted });
    const profile = words.field(by.field)?.type === 'integer' ? words.field(by.field)?.profile : undefined;
    const [low, high] = unitRanges[wanted];
    if (!profile || typeof profile.min !== 'number' || typeof profile.max !== 'number') return null;
    return profile.min < low || profile.max > high
      ? tell('clock.range', {
          unit: wanted,
          low,
          high,
          field: words.fieldName(by.field),
          min: profile.min,
          max: profile.max,
        })
      : null;
  },
  parts: (spec, words) =>
    sentenceParts('clock', {
      unit: optionWord(tell('clock.unitLabel'), ['unit'], spec.unit, [
        { value: undefined, text: tell('clock.unit', { unit: 'time' }), note: tell('clock.shown') },
        ...clockUnits.map((value) => ({ value, text: tell('clock.unit', { unit: value }) })),
      ]),
      lever: {
        slot: 'lever',
        path: ['lever'],
        text: words.lever(spec.lever)?.name ?? spec.lever,
        value: spec.lever,
        ability: 'now',
      },
    }),
};
