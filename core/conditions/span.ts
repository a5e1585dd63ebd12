import { IsIn } from 'class-validator';
import type { Category } from '../board/category';
import { IsId } from '../board/id';
import { axisPlace, placesRise } from '../cube/axis-place';
import type { Interval } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import { periodEnd } from '../periods';
import type { KeyValue } from '../values';
import { cutText } from '../words/cut-text';
import { keyText } from '../words/key-text';
import { counted } from '../words/plural';
import { optionWord } from '../words/sentence';
import {
  type AlongAxis,
  type ConditionContext,
  type ConditionKind,
  type LeverContext,
  verdicts,
} from './condition-kind';

export const spanMatches = ['touching', 'whole', 'starting'] as const;
export type SpanMatch = (typeof spanMatches)[number];

/** Met by marks whose period, or number, lies within from and to. */
export class SpanCondition {
  @IsIn(['span'])
  kind!: 'span';

  @IsId()
  lever!: string;

  /** A period counts when it touches the span, when it lies in it as a whole, or when it starts in it. */
  @IsIn(spanMatches)
  match!: SpanMatch;
}

const atMost = (a: KeyValue, b: KeyValue): boolean =>
  typeof a === 'number' && typeof b === 'number' ? a <= b : String(a).slice(0, 10) <= String(b).slice(0, 10);

/** How much of a period lies in an interval. */
export function spanMeeting(
  value: KeyValue,
  by: Category,
  { from, to }: Interval,
): Record<SpanMatch, boolean> {
  if (
    value === null ||
    typeof value === 'boolean' ||
    (typeof value === 'number') !== (typeof from === 'number')
  )
    return { touching: false, whole: false, starting: false };
  const end = by.grain && typeof value === 'string' ? periodEnd(value, by.grain) : value;
  const starting = atMost(from, value) && atMost(value, to);
  return { starting, whole: starting && atMost(end, to), touching: atMost(value, to) && atMost(from, end) };
}

function intervalNow(spec: SpanCondition, { lever, stand }: LeverContext): Interval | null {
  const source = lever(spec.lever);
  const position = stand(spec.lever);
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

export const span: ConditionKind<SpanCondition> = {
  kind: 'span',
  Spec: SpanCondition,
  levers: (spec) => [spec.lever],
  needs: (spec) => [{ lever: spec.lever, ability: 'interval' }],
  usual: {
    text: 'in a stretch of dates',
    forDates: true,
    make: (need) => ({ kind: 'span', lever: need('interval'), match: 'touching' }),
  },
  restText: 'no stretch is set',
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
      return key === null ? verdicts.unknown : meeting[spec.match] ? verdicts.yes : verdicts.no;
    });
    for (let i = 0; i < verdict.length; i++) verdict[i] = known[place[i]!]!;
    const note = partly
      ? `${counted(partly, by.grain ?? 'value')} only partly inside${spec.match === 'whole' ? ', not lit' : ''}`
      : undefined;
    return {
      active: true,
      verdict,
      ...(placesRise(places) ? { along: alongInterval(interval, context) } : {}),
      ...(note ? { note } : {}),
    };
  },
  explain(spec, context, index, words) {
    const interval = intervalNow(spec, context);
    const key = context.readings.category[index]!;
    if (!interval || key === null) return 'it has no place in the stretch';
    const { touching, whole } = spanMeeting(key, context.by, interval);
    const day = (value: KeyValue) =>
      typeof value === 'string' ? keyText(value, 'date', 'day') : words.key(value);
    const how = whole ? 'lies in' : touching ? 'lies partly in' : 'is outside';
    return `${words.key(key)} ${how} ${words.lever(spec.lever)} (${day(interval.from)} – ${day(interval.to)})`;
  },
  workings(spec, context) {
    const interval = intervalNow(spec, context);
    const values = context.readings.category.map((key) => {
      if (!interval || key === null) return null;
      const { touching, whole } = spanMeeting(key, context.by, interval);
      return whole ? 'whole' : touching ? 'partly' : 'no';
    });
    return [{ name: 'in the stretch', values }];
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
    return {
      field: source.field,
      grain: source.grain,
      keeps: (value) =>
        (typeof value === 'number') === (typeof from === 'number') &&
        atMost(from, value) &&
        atMost(value, to),
      text: (read) => `${read(from)} – ${read(to)}`,
    };
  },
  legend(spec, context, words) {
    const interval = intervalNow(spec, context);
    const name = words.lever(spec.lever)?.name ?? spec.lever;
    if (!interval) return [name];
    const day = (value: KeyValue) => keyText(value, typeof value === 'string' ? 'date' : undefined, 'day');
    return [`${day(interval.from)} – ${day(interval.to)}`];
  },
  unfit(spec, { by }, lever, words) {
    const source = sourceOf(spec, lever);
    if (!source || source.field === by.field) return null;
    const name = lever(spec.lever)!.name;
    return `${name} is a stretch of ${words.fieldName(source.field)}, and each mark here stands for ${cutText(by, words)}: it can filter this chart, not light it.`;
  },
  parts: (spec, words) => [
    optionWord('Which periods', ['match'], spec.match, [
      { value: 'touching', text: 'touching', note: 'also those only partly inside' },
      { value: 'whole', text: 'lying wholly in', note: 'not those partly inside' },
      { value: 'starting', text: 'starting in', note: 'wherever they end' },
    ]),
    ' ',
    {
      slot: 'lever',
      path: ['lever'],
      text: words.lever(spec.lever)?.name ?? spec.lever,
      value: spec.lever,
      ability: 'interval',
    },
  ],
};
