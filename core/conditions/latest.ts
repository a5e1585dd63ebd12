import { IsIn } from 'class-validator';
import { IsId } from '../board/id';
import { IsOptional } from '../board/validation';
import { addDays, periodEnd, periodOrdinal, periodStart } from '../data/periods';
import { compareKeys, type KeyValue } from '../data/values';
import type { LeverContext } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import { localText } from '../levers/zone-time';
import { tell } from '../messages/desk';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { optionWord, sentenceParts } from '../words/sentence';
import { type Claim, type ConditionContext, type ConditionKind, verdicts } from './condition-kind';

export const latestOf = ['data', 'view', 'business day', 'business day in view'] as const;

const latestTexts = {
  data: 'latest.data',
  view: 'latest.view',
  'business day': 'latest.businessDay',
  'business day in view': 'latest.businessDayInView',
} as const;

/** Met by the last period that has a value, or by the last business day before a clock's today. */
export class LatestCondition {
  @IsIn(['latest'])
  kind!: 'latest';

  @IsIn(latestOf)
  of!: (typeof latestOf)[number];

  /** For business days: the clock whose today is meant. Left out: the day after the last of the data. */
  @IsOptional()
  @IsId()
  clock?: string;
}

/** The last category that has a value, whatever the order of the readings; null when none has. */
function lastWithValue({
  category,
  value,
}: {
  category: readonly KeyValue[];
  value: Float64Array;
}): KeyValue {
  let last: KeyValue = null;
  for (let i = 0; i < category.length; i++) {
    const key = category[i]!;
    if (key === null || Number.isNaN(value[i]!)) continue;
    if (last === null || compareKeys(key, last) > 0) last = key;
  }
  return last;
}

/** The last day before a day that is neither at a weekend nor a holiday. */
export function businessDayBefore(day: string, holidays: readonly string[]): string {
  const off = new Set(holidays);
  const thursday = periodOrdinal('1970-01-01', 'day');
  let before = addDays(day, -1);
  // Monday is 0: the first of 1970 was a Thursday.
  const weekday = (each: string) => (((periodOrdinal(each, 'day') - thursday + 3) % 7) + 7) % 7;
  for (let tries = 0; tries < 4000 && (weekday(before) >= 5 || off.has(before)); tries++)
    before = addDays(before, -1);
  return before;
}

function today(spec: LatestCondition, { lever, positionOf }: LeverContext): string | null {
  const clock = spec.clock === undefined ? undefined : lever(spec.clock);
  const position = clock && positionOf(clock.id);
  const now = clock && position !== undefined ? kindOf(clock).now?.(clock, position) : null;
  return now ? localText(now.time).slice(0, 10) : null;
}

const goesByView = ({ of }: LatestCondition) => of === 'view' || of === 'business day in view';

/** The category that is meant; null when there is none. */
function latestKey(spec: LatestCondition, context: ConditionContext): KeyValue {
  const { readings, by } = context;
  const inView = goesByView(spec);
  const last = lastWithValue(inView ? readings : (context.whole?.() ?? readings));
  if (spec.of === 'data' || spec.of === 'view' || typeof last !== 'string') return last;
  const end = by.grain ? periodEnd(last, by.grain) : last.slice(0, 10);
  const before = inView ? null : today(spec, context);
  const day = businessDayBefore(before ?? addDays(end, 1), context.holidays ?? []);
  return by.grain ? periodStart(day, by.grain) : day;
}

interface LatestClaim extends Claim {
  key: KeyValue;
  /** The category that is meant; null where no period has a value. */
  latest: KeyValue;
  of: LatestCondition['of'];
}

export const latest: ConditionKind<LatestCondition, LatestClaim> = {
  kind: 'latest',
  Spec: LatestCondition,
  usual: {
    offer: {
      use: () => tell('latest.use'),
      text: ({ mark, category }) => tell('latest.offer', { mark, category }),
    },
    text: () => tell('latest.usual'),
    forDates: true,
    make: () => ({ kind: 'latest', of: 'data' }),
  },
  levers: ({ clock }) => (clock === undefined ? [] : [clock]),
  needs: ({ clock }) => (clock === undefined ? [] : [{ lever: clock, ability: 'now' }]),
  looksBeyondView: (spec) => !goesByView(spec),
  evaluate(spec, context) {
    const { places, place } = context.readings;
    const key = latestKey(spec, context);
    const known = Uint8Array.from(places, (each) =>
      each === null ? verdicts.unknown : each === key ? verdicts.yes : verdicts.no,
    );
    const verdict = Uint8Array.from(place, (at) => known[at]!);
    const found = verdict.includes(verdicts.yes);
    return {
      active: true,
      verdict,
      ...(found
        ? {}
        : { note: (locale: Locale) => say(locale, key === null ? 'note.noLatest' : 'note.latestNotInView') }),
    };
  },
  legend: ({ of }, _context, { locale }) => [say(locale, latestTexts[of])],
  filters: () => null,
  rowFilter: () => null,
  unfit: () => null,
  parts: (spec, words) =>
    sentenceParts('latest', {
      of: optionWord(tell('latest.label'), ['of'], spec.of, [
        { value: 'data', text: tell('latest.ofData'), note: tell('latest.dataNote') },
        { value: 'view', text: tell('latest.ofView') },
        { value: 'business day', text: tell('latest.business'), note: tell('latest.businessNote') },
        {
          value: 'business day in view',
          text: tell('latest.businessInView'),
          note: tell('latest.businessInViewNote'),
        },
      ]),
      business: spec.of.startsWith('business day') ? 'yes' : 'no',
      holidays: { slot: 'holidays', text: tell('latest.holidays', { n: words.holidays.length }) },
      timed: spec.of === 'business day' && spec.clock !== undefined ? 'yes' : 'no',
      clock: {
        slot: 'lever',
        path: ['clock'],
        text: (spec.clock && words.lever(spec.clock)?.name) ?? spec.clock ?? '',
        value: spec.clock,
        ability: 'now',
      },
    }),
  without: ({ clock: _gone, ...spec }) => spec as LatestCondition,
  claim(spec, context, index) {
    const latestOne = latestKey(spec, context);
    const key = context.readings.category[index]!;
    return {
      says: 'latest',
      verdict: key === null ? verdicts.unknown : key === latestOne ? verdicts.yes : verdicts.no,
      key,
      latest: latestOne,
      of: spec.of,
    };
  },
  claimText({ verdict, key, latest: latestOne, of }, words) {
    const { locale } = words;
    if (latestOne === null) return say(locale, 'note.noLatest');
    return verdict === verdicts.yes
      ? say(locale, 'claim.isLatest', { key: words.key(key), latest: say(locale, latestTexts[of]) })
      : say(locale, 'claim.latestIs', { latest: say(locale, latestTexts[of]), key: words.key(latestOne) });
  },
};
