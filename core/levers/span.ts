import { closedObject, dateSchema, IsOptional, Own, oneOf } from '../board/validation';
import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { ArrayMaxSize, IsArray, IsIn, IsNumber, IsPositive } from 'class-validator';
import { fieldOf, lastDayOf } from '../data/dataset';
import type { Grain } from '../data/dimension';
import { isDateText, periodAt, periodEnd, periodOrdinal, periodStart } from '../data/periods';
import { isNumeric, isTemporal, type KeyValue } from '../data/values';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { keyText } from '../words/key-text';
import { type Outside, outsides } from './figure-lever';
import { FieldLever } from './lever-base';
import type { Interval, IntervalAxis, LeverFacts, LeverKind } from './lever-kind';
import { presetInterval, type SpanPreset, spanPresets } from './span-presets';
import { onStep } from './steps';

/** From and to, both inside: days as `YYYY-MM-DD`, or numbers. Null while nothing is spanned. */
export type SpanPosition = Interval | null;

const isEnd = (value: unknown) => isDateText(value) || Number.isFinite(value);
const isPair = (value: unknown): value is Interval => {
  if (typeof value !== 'object' || value === null) return false;
  const { from, to, ...rest } = value as Record<string, unknown>;
  return isEnd(from) && isEnd(to) && typeof from === typeof to && !Object.keys(rest).length;
};

const IsSpanStart = () =>
  Own({
    name: 'isSpanStart',
    validate: (value) => value === null || spanPresets.includes(value as never) || isPair(value),
    message: 'check.spanStart',
    slots: () => ({ presets: spanPresets.join(', ') }),
    schema: {
      anyOf: [
        oneOf(null, ...spanPresets),
        closedObject({ from: dateSchema, to: dateSchema }),
        closedObject({ from: { type: 'number' }, to: { type: 'number' } }),
      ],
    },
  });

/** A stretch of dates or numbers, brushed on a chart or set by its ends. */
export class SpanLever extends FieldLever {
  @IsIn(['span'])
  kind!: 'span';

  /** For numbers: what one step is. Left out: 1. */
  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @IsPositive()
  step?: number;

  @IsSpanStart()
  start!: SpanPosition | SpanPreset;

  /** Stretches offered by name. */
  @IsArray()
  @ArrayMaxSize(spanPresets.length)
  @IsIn(spanPresets, { each: true })
  presets!: SpanPreset[];

  @IsIn(outsides)
  outside!: Outside;
}

/** A page of days is a month, of months a year. */
const pageOfGrain: Record<Grain, number> = { day: 30, week: 13, month: 12, quarter: 4, year: 5 };

/** The steps from the first to the last value in the data; undefined while that is not known. */
export function spanAxis(spec: SpanLever, facts: LeverFacts | undefined): IntervalAxis | undefined {
  const field = facts && fieldOf(facts.dataset, spec.field);
  const { min, max } = field?.profile ?? {};
  if (!field || min === null || min === undefined || max === null || max === undefined) return undefined;
  if (isTemporal(field.type)) {
    const grain = spec.grain ?? 'day';
    const text = (value: KeyValue, locale: Locale) =>
      keyText(String(value).slice(0, 10), locale, 'date', 'day');
    return {
      min: periodOrdinal(String(min).slice(0, 10), grain),
      max: periodOrdinal(lastDayOf(field.profile!)!, grain),
      ordinal: (value) => periodOrdinal(String(value).slice(0, 10), grain),
      from: (ordinal) => periodAt(ordinal, grain),
      to: (ordinal) => periodEnd(periodAt(ordinal, grain), grain),
      text,
      page: pageOfGrain[grain],
    };
  }
  if (!isNumeric(field.type)) return undefined;
  const step = spec.step ?? 1;
  const low = Number(min);
  const bounds = { min: low, max: Number(max), step };
  const last = Math.ceil((bounds.max - low) / step - 1e-9);
  const at = (ordinal: number) => onStep(low + ordinal * step, bounds);
  return {
    min: 0,
    max: last,
    ordinal: (value) => Math.round((Number(value) - low) / step),
    from: at,
    to: at,
    text: keyText,
    page: Math.max(1, Math.round(last / 10)),
  };
}

const before = (a: KeyValue, b: KeyValue) =>
  typeof a === 'number' && typeof b === 'number' ? a < b : String(a) < String(b);

/** The span between two values, whichever comes first, widened to whole steps. */
export function spanBetween(a: KeyValue, b: KeyValue, axis: IntervalAxis): Interval {
  const [low, high] = before(b, a) ? [b, a] : [a, b];
  return { from: axis.from(axis.ordinal(low)), to: axis.to(axis.ordinal(high)) };
}

function startOf(spec: SpanLever, facts: LeverFacts | undefined): SpanPosition {
  if (spec.start === null || typeof spec.start === 'object') return spec.start;
  return presetInterval(spec.start, spec, facts);
}

const endFrom = (text: string): KeyValue | undefined =>
  isDateText(text as unknown)
    ? text.slice(0, 10)
    : text.trim() !== '' && Number.isFinite(Number(text))
      ? Number(text)
      : undefined;

export const span: LeverKind<SpanLever, SpanPosition> = {
  kind: 'span',
  Spec: SpanLever,
  get noun() {
    return tell('lever.span.noun');
  },
  clearings: ['empty', 'start', 'keep'],
  fits: (field) => isTemporal(field.type) || isNumeric(field.type),
  make({ id, name, dataset, dimension }) {
    const field = fieldOf(dataset, dimension!.field);
    const temporal = field !== undefined && isTemporal(field.type);
    const { min, max } = field?.profile ?? {};
    const width = Number(max) - Number(min);
    const step = width > 0 && field?.type === 'decimal' ? 10 ** Math.floor(Math.log10(width / 50)) : 1;
    return {
      kind: 'span',
      id,
      name,
      dataset: dataset.id,
      field: dimension!.field,
      ...(temporal ? { grain: dimension!.grain ?? 'day' } : { step }),
      start: null,
      presets: temporal ? ['last 30 days', 'last 12 months', 'latest year'] : [],
      outside: 'nearest',
      clearing: 'empty',
    };
  },
  source: (spec) => spec,
  start: startOf,
  startAt: (_spec, position) => ({ start: position && { from: position.from, to: position.to } }),
  isEmpty: (position) => position === null,
  same: (a, b) => a === b || (a !== null && b !== null && a.from === b.from && a.to === b.to),
  clear: (spec, position, facts) =>
    spec.clearing === 'keep' ? position : spec.clearing === 'start' ? startOf(spec, facts) : null,
  toQuery: (position) => [position ? `${position.from}..${position.to}` : ''],
  fromQuery(_spec, [text = '']) {
    if (text === '') return null;
    const [from, to, more] = text.split('..').map(endFrom);
    if (from === undefined || to === undefined || from === null || to === null || more !== undefined)
      return undefined;
    if (typeof from !== typeof to) return undefined;
    return before(to, from) ? { from: to, to: from } : { from, to };
  },
  settle(spec, position, facts) {
    const axis = spanAxis(spec, facts);
    if (!position || !axis) return { position };
    const bounds = { from: axis.from(axis.min), to: axis.to(axis.max) };
    const range = ({ from, to }: Interval, locale: Locale) =>
      `${axis.text(from, locale)} – ${axis.text(to, locale)}`;
    const wrong = typeof position.from !== typeof bounds.from;
    if (wrong || before(position.to, bounds.from) || before(bounds.to, position.from)) {
      const start = startOf(spec, facts);
      const notice = (locale: Locale) =>
        wrong
          ? say(locale, 'notice.notARange', { lever: spec.name })
          : say(locale, 'notice.outsideData', {
              range: range(position, locale),
              data: range(bounds, locale),
            });
      return { position: spec.outside === 'start' && start && !wrong ? start : null, notice };
    }
    const clipped = {
      from: before(position.from, bounds.from) ? bounds.from : position.from,
      to: before(bounds.to, position.to) ? bounds.to : position.to,
    };
    const beyond = clipped.from !== position.from || clipped.to !== position.to;
    // What was typed is kept to the day: steps are for sliding.
    if (!beyond) return { position };
    return {
      position: clipped,
      notice: (locale) => say(locale, 'notice.cut', { data: range(bounds, locale) }),
    };
  },
  summary(spec, position, facts, locale) {
    if (!position) return say(locale, 'lever.nothing');
    const axis = spanAxis(spec, facts);
    const text = axis?.text ?? ((value: KeyValue) => String(value));
    if (position.from === position.to) return text(position.from, locale);
    return `${text(position.from, locale)} – ${text(position.to, locale)}`;
  },
  interval: (_spec, position) => position,
  intervalAxis: spanAxis,
  touch: {
    takes: 'category',
    fits: (spec, chart) => spec.dataset === chart.dataset && spec.field === chart.by.field,
    put(spec, position, { values, by }, use, facts) {
      const axis = spanAxis(spec, facts);
      const held: KeyValue[] = values.filter((value) => value !== null);
      if (!axis || !held.length) return position;
      const ends = held.flatMap((value): KeyValue[] =>
        by.grain && typeof value === 'string'
          ? [periodStart(value, by.grain), periodEnd(value, by.grain)]
          : [value],
      );
      if (use !== 'replace' && position) ends.push(position.from, position.to);
      const first = ends.reduce((a, b) => (before(b, a) ? b : a));
      const last = ends.reduce((a, b) => (before(a, b) ? b : a));
      return spanBetween(first, last, axis);
    },
  },
};
