import { ArrayMaxSize, IsIn, IsInt, Min } from 'class-validator';
import { byDate } from '../board/event';
import { IsOptional } from '../board/validation';
import { axisPlace, placesRise } from '../data/axis-place';
import type { KeyValue } from '../data/values';
import { tell } from '../messages/desk';
import type { Locale } from '../messages/locale';
import { english } from '../messages/locale';
import { say } from '../messages/say';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import { sentenceParts } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { type Claim, type ConditionContext, type ConditionKind, verdicts } from './condition-kind';

/**
 * Met by marks in the stretches that the board's events part time into: k events give k + 1 stretches, [.., e1),
 * [e1, e2) .. [ek, ..), and every period belongs to the one it starts in.
 */
export class SegmentCondition {
  @IsIn(['segment'])
  kind!: 'segment';

  /** The stretches that are meant, counted from 0; all where it is left out. */
  @IsOptional()
  @ArrayMaxSize(201)
  @IsInt({ each: true })
  @Min(0, { each: true })
  only?: number[];
}

/** The stretch that a day lies in: how many events are at or before it. */
function stretchOf(day: string, dates: readonly string[]): number {
  let low = 0;
  let high = dates.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (dates[middle]! <= day) low = middle + 1;
    else high = middle;
  }
  return low;
}

const datesOf = ({ events = [] }: ConditionContext) => byDate(events).map(({ date }) => date.slice(0, 10));

/** "before the storm", "from the storm to the new pier", "from the new pier on". */
export function stretchNames(words: Pick<Vocabulary, 'events' | 'locale'>): string[] {
  const names = byDate(words.events).map(({ name }) => name);
  if (!names.length) return [];
  return [...names, ''].map((name, i) => {
    const before = names[i - 1];
    return stretchName({ from: before, to: name || undefined }, words.locale);
  });
}

/** The events that a stretch lies between: before the first there is none that it begins with. */
interface StretchEnds {
  from?: string | undefined;
  to?: string | undefined;
}

const stretchName = ({ from, to }: StretchEnds, locale: Locale): string =>
  say(locale, 'stretch', {
    place: from === undefined ? 'first' : to === undefined ? 'last' : 'middle',
    from: from ?? '',
    to: to ?? '',
  });

interface SegmentClaim extends Claim {
  key: KeyValue;
  /** The events that it lies between, and the day of the one that it begins with, or ends at. */
  stretch: StretchEnds;
  since: string;
}

export const segment: ConditionKind<SegmentCondition, SegmentClaim> = {
  kind: 'segment',
  Spec: SegmentCondition,
  levers: () => [],
  usual: {
    text: () => tell('segment.usual'),
    forDates: true,
    forEvents: true,
    make: () => ({ kind: 'segment' }),
  },
  restText: (locale) => say(locale, 'rest.segment'),
  evaluate(spec, context) {
    const { places, place, length } = context.readings;
    const dates = datesOf(context);
    const verdict = new Uint8Array(length);
    if (!dates.length) return { active: false, verdict };
    const meant = spec.only ? new Set(spec.only) : null;
    const said = (stretch: number) => (!meant || meant.has(stretch) ? verdicts.yes : verdicts.no);
    const stretchAt = Uint8Array.from(places, (key) =>
      typeof key === 'string' ? stretchOf(key.slice(0, 10), dates) : 0,
    );
    const known = Uint8Array.from(places, (key, at) =>
      typeof key === 'string' ? said(stretchAt[at]!) : verdicts.unknown,
    );
    const variant = new Uint8Array(length);
    for (let i = 0; i < length; i++) {
      verdict[i] = known[place[i]!]!;
      variant[i] = stretchAt[place[i]!]!;
    }
    if (!placesRise(places)) return { active: true, verdict, variant };
    const cuts = dates.map((date) => axisPlace(date, 'from', places, context.by));
    const stretchAlong = (at: number) => cuts.filter((cut) => cut <= at).length;
    return {
      active: true,
      verdict,
      variant,
      along: { cuts, verdict: (at) => said(stretchAlong(at)), variant: stretchAlong },
    };
  },
  readsEvents: () => true,
  restretched: (spec, before, after) =>
    spec.only
      ? { ...spec, only: after.flatMap((id, i) => (spec.only!.includes(before.indexOf(id)) ? [i] : [])) }
      : spec,
  variants: (_spec, words) => stretchNames(words),
  // A stretch looks like the event that it begins with.
  sideLooks: (_spec, { events }) => [undefined, ...byDate(events).map(({ colour }) => colour && { colour })],
  claim(spec, context, index) {
    const key = context.readings.category[index]!;
    const events = byDate(context.events ?? []);
    if (typeof key !== 'string')
      return { says: 'segment', verdict: verdicts.unknown, key, stretch: {}, since: '' };
    const stretch = stretchOf(key.slice(0, 10), datesOf(context));
    const meant = !spec.only || spec.only.includes(stretch);
    return {
      says: 'segment',
      verdict: meant ? verdicts.yes : verdicts.no,
      key,
      stretch: { from: events[stretch - 1]?.name, to: events[stretch]?.name },
      since: events[Math.max(0, stretch - 1)]!.date.slice(0, 10),
    };
  },
  claimText({ verdict, key, stretch, since }, words) {
    const { locale } = words;
    if (verdict === verdicts.unknown) return say(locale, 'claim.noTime');
    return say(locale, 'claim.segment', {
      key: words.key(key),
      stretch: stretchName(stretch, locale),
      since: keyText(since, locale, 'date', 'day'),
      is: verdict === verdicts.yes ? 'yes' : 'no',
    });
  },
  workings(_spec, context) {
    const names = stretchNames({ events: context.events ?? [], locale: english });
    const dates = datesOf(context);
    return [
      {
        name: 'stretch',
        values: context.readings.category.map((key) =>
          typeof key === 'string' ? (names[stretchOf(key.slice(0, 10), dates)] ?? null) : null,
        ),
      },
    ];
  },
  filters: () => null,
  rowFilter: () => null,
  unfit: (_spec, { by }, _lever, words) => {
    const type = words.field(by.field)?.type;
    return type === undefined || type === 'date' || type === 'datetime' ? null : tell('segment.noDates');
  },
  legend: (_spec, _context, words) => stretchNames(words),
  parts: ({ only }, words) => {
    const names = stretchNames(words);
    return sentenceParts('segment', {
      periods: {
        slot: 'stretches',
        path: ['only'],
        text: only
          ? listed(
              only.map((stretch) => tell('segment.period', { name: names[stretch] ?? '?' })),
              words.locale,
            )
          : tell('segment.each'),
        value: only,
      },
      events: { slot: 'events', text: tell('events', { n: Math.max(0, names.length - 1) }) },
    });
  },
};
