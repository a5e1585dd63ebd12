import { IsIn } from 'class-validator';
import type { Category } from '../board/category';
import { IsId } from '../board/id';
import { axisPlace, placesRise } from '../data/axis-place';
import { periodEnd, periodStart } from '../data/periods';
import type { KeyValue } from '../data/values';
import type { Interval, LeverContext } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import { tell } from '../messages/desk';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { dimensionText } from '../words/dimension-text';
import { keyText } from '../words/key-text';
import { optionWord, sentenceParts } from '../words/sentence';
import {
  type AlongAxis,
  type Claim,
  type ConditionContext,
  type ConditionKind,
  verdicts,
} from './condition-kind';

export const spanMatches = ['touching', 'whole', 'starting', 'cut'] as const;
export type SpanMatch = (typeof spanMatches)[number];

/** How a period meets a span. */
export type SpanMeeting = Record<Exclude<SpanMatch, 'cut'>, boolean>;

/** Whether that is how it has to meet it; where a line is cut, the periods that it is cut in count too. */
const meets = (meeting: SpanMeeting, match: SpanMatch) => meeting[match === 'cut' ? 'touching' : match];

/** Met by marks whose period, or number, lies within from and to. */
export class SpanCondition {
  @IsIn(['span'])
  kind!: 'span';

  @IsId()
  lever!: string;

  /**
   * A period counts when it touches the span, when it lies in it as a whole, or when it starts in it; for bars, points and
   * lines alike. `cut` is touching, and lines are lit exactly from end to end of the span, within periods too.
   */
  @IsIn(spanMatches)
  match!: SpanMatch;
}

const atMost = (a: KeyValue, b: KeyValue): boolean =>
  typeof a === 'number' && typeof b === 'number' ? a <= b : String(a).slice(0, 10) <= String(b).slice(0, 10);

/** How much of a period, from its first day up to the next one's, lies in an interval of whole days. */
export function spanMeeting(value: KeyValue, by: Category, { from, to }: Interval): SpanMeeting {
  if (
    value === null ||
    typeof value === 'boolean' ||
    (typeof value === 'number') !== (typeof from === 'number')
  )
    return { touching: false, whole: false, starting: false };
  const end = by.grain && typeof value === 'string' ? periodEnd(value, by.grain) : value;
  const starting = atMost(from, value) && atMost(value, to);
  const touching = atMost(value, to) && atMost(from, end);
  return { starting, whole: starting && atMost(end, to), touching };
}

function intervalNow(spec: SpanCondition, { lever, positionOf }: LeverContext): Interval | null {
  const source = lever(spec.lever);
  const position = positionOf(spec.lever);
  return source && position !== undefined ? (kindOf(source).interval?.(source, position) ?? null) : null;
}

const sourceOf = (spec: SpanCondition, lever: LeverContext['lever']) => {
  const source = lever(spec.lever);
  return source && kindOf(source).source?.(source);
};

/** A line is lit from the very day on which the stretch begins to the end of its last day. */
function alongInterval({ from, to }: Interval, { readings, by }: ConditionContext): AlongAxis {
  const start = axisPlace(from, 'from', readings.places, by);
  const end = axisPlace(to, 'to', readings.places, by);
  return {
    cuts: [start, end],
    verdict: (along) => (along >= start && along <= end ? verdicts.yes : verdicts.no),
  };
}

interface SpanClaim extends Claim {
  key: KeyValue;
  lever: string;
  interval: Interval | null;
  match: SpanMatch;
  meeting: SpanMeeting;
}

export const span: ConditionKind<SpanCondition, SpanClaim> = {
  kind: 'span',
  Spec: SpanCondition,
  levers: (spec) => [spec.lever],
  needs: (spec) => [{ lever: spec.lever, ability: 'interval' }],
  usual: {
    text: () => tell('span.usual'),
    forDates: true,
    make: (need) => ({ kind: 'span', lever: need('interval'), match: 'touching' }),
  },
  restText: (locale) => say(locale, 'rest.span'),
  evaluate(spec, context) {
    const { readings, by, lever } = context;
    const verdict = new Uint8Array(readings.length);
    const interval = intervalNow(spec, context);
    const source = sourceOf(spec, lever);
    if (!interval || source?.field !== by.field) return { active: false, verdict };
    const { places, place } = readings;
    const seen = new Uint8Array(places.length);
    for (const at of place) seen[at] = 1;
    let partly = 0;
    const known = Uint8Array.from(places, (key, at) => {
      const meeting = spanMeeting(key, by, interval);
      if (seen[at] && meeting.touching && !meeting.whole) partly++;
      return key === null ? verdicts.unknown : meets(meeting, spec.match) ? verdicts.yes : verdicts.no;
    });
    for (let i = 0; i < verdict.length; i++) verdict[i] = known[place[i]!]!;
    const note = partly
      ? (locale: Locale) =>
          say(locale, 'note.partly', { n: partly, unit: by.grain ?? 'value', match: spec.match })
      : undefined;
    return {
      active: true,
      verdict,
      ...(spec.match === 'cut' && placesRise(places) ? { along: alongInterval(interval, context) } : {}),
      ...(note ? { note } : {}),
    };
  },
  claim(spec, context, index) {
    const interval = intervalNow(spec, context);
    const key = context.readings.category[index]!;
    const meeting = interval
      ? spanMeeting(key, context.by, interval)
      : { touching: false, whole: false, starting: false };
    const known = interval !== null && key !== null;
    return {
      says: 'span',
      verdict: !known ? verdicts.unknown : meets(meeting, spec.match) ? verdicts.yes : verdicts.no,
      key,
      lever: spec.lever,
      interval,
      match: spec.match,
      meeting,
    };
  },
  claimText({ verdict, key, lever, interval, match, meeting }, words) {
    const { locale } = words;
    if (!interval || verdict === verdicts.unknown) return say(locale, 'claim.noSpan');
    const day = (value: KeyValue) =>
      typeof value === 'string' ? keyText(value, locale, 'date', 'day') : words.key(value);
    const partly = match === 'starting' ? (meeting.starting ? 'starts' : 'startsOutside') : 'partly';
    return say(locale, 'claim.span', {
      key: words.key(key),
      how: meeting.whole ? 'whole' : meeting.touching ? partly : 'outside',
      lever: words.lever(lever),
      range: `${day(interval.from)} – ${day(interval.to)}`,
    });
  },
  workings(spec, context) {
    const interval = intervalNow(spec, context);
    const values = context.readings.category.map((key) => {
      if (!interval || key === null) return null;
      const { touching, whole } = spanMeeting(key, context.by, interval);
      return whole ? 'whole' : touching ? 'partly' : 'no';
    });
    return [{ name: tell('span.working'), values }];
  },
  filters(spec, lever) {
    const source = sourceOf(spec, lever);
    return source ? { field: source.field, grain: source.grain } : null;
  },
  rowFilter(spec, context) {
    const interval = intervalNow(spec, context);
    const source = sourceOf(spec, context.lever);
    if (!interval || !source) return null;
    const { from, to } = interval;
    // Of a lever that moves in months, an end within a month keeps all of that: its text says the month.
    const kept = ({ grain }: Category) =>
      grain && typeof from === 'string' && typeof to === 'string'
        ? { from: periodStart(from, grain), to: periodEnd(to, grain) }
        : interval;
    const { from: first, to: last } = kept(source as Category);
    return {
      field: source.field,
      grain: source.grain,
      keeps: (value) => spanMeeting(value, source as Category, interval).touching,
      covers: (begin, end) => {
        const met = atMost(first, end) && atMost(begin, last);
        return met ? (atMost(first, begin) && atMost(end, last) ? 'whole' : 'part') : 'none';
      },
      text: (read) => `${read.value(from)} – ${read.value(to)}`,
    };
  },
  legend(spec, context, words) {
    const interval = intervalNow(spec, context);
    const name = words.lever(spec.lever)?.name ?? spec.lever;
    if (!interval) return [name];
    const day = (value: KeyValue) =>
      keyText(value, words.locale, typeof value === 'string' ? 'date' : undefined, 'day');
    return [`${day(interval.from)} – ${day(interval.to)}`];
  },
  unfit(spec, { by }, lever, words) {
    const source = sourceOf(spec, lever);
    if (!source || source.field === by.field) return null;
    const name = lever(spec.lever)!.name;
    return tell('span.other', {
      lever: name,
      field: words.fieldName(source.field),
      shown: dimensionText(by, words),
    });
  },
  parts: (spec, words) =>
    sentenceParts('span', {
      match: optionWord(tell('span.label'), ['match'], spec.match, [
        { value: 'touching', text: tell('span.touching') },
        { value: 'whole', text: tell('span.whole') },
        { value: 'starting', text: tell('span.starting'), note: tell('span.startingNote') },
        { value: 'cut', text: tell('span.cut'), note: tell('span.cutNote') },
      ]),
      lever: {
        slot: 'lever',
        path: ['lever'],
        text: words.lever(spec.lever)?.name ?? spec.lever,
        value: spec.lever,
        ability: 'interval',
      },
    }),
};
