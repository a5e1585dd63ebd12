import { closedObject, IsOptional, Own, oneOf } from '../board/validation';
import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { IsBoolean, IsIn, IsInt, Max, Min } from 'class-validator';
import { type FieldInfo, fieldOf } from '../data/dataset';
import type { Grain } from '../data/dimension';
import { sameDimension } from '../data/dimension';
import { periodAt, periodOrdinal } from '../data/periods';
import { isNumeric, isTemporal, type KeyValue } from '../data/values';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { keyText } from '../words/key-text';
import { FieldLever } from './lever-base';
import type { LeverFacts, LeverKind } from './lever-kind';
import { listOf } from './listed';
import { holdableSchema, isHoldable, valueFromText, valueToText } from './value-text';

/** The first period in view, and how many are; null is the first of the data. */
export interface WindowPosition {
  from: KeyValue;
  length: number;
}

export const windowStarts = ['first', 'last'] as const;
export const windowCounts = ['present', 'calendar'] as const;

const IsWindowStart = () =>
  Own({
    name: 'isWindowStart',
    validate: (value) =>
      windowStarts.includes(value as never) ||
      (typeof value === 'object' &&
        value !== null &&
        Object.keys(value).length === 1 &&
        isHoldable((value as { from?: unknown }).from)),
    message: 'check.windowStart',
    schema: { anyOf: [oneOf(...windowStarts), closedObject({ from: holdableSchema })] },
  });

/** A stretch of consecutive places of an axis. */
export class WindowLever extends FieldLever {
  @IsIn(['window'])
  kind!: 'window';

  @IsInt()
  @Min(1)
  @Max(1_000_000)
  length!: number;

  @IsWindowStart()
  start!: (typeof windowStarts)[number] | { from: KeyValue };

  /** What is counted: the categories that there are, or periods of the calendar, whether there is one of them or not. */
  @IsOptional()
  @IsIn(windowCounts)
  counts?: (typeof windowCounts)[number];

  /** Whether viewers may change how many periods are in view. */
  @IsOptional()
  @IsBoolean()
  resizable?: boolean;
}

/** The periods a window moves along, numbered from 0. */
export interface WindowAxis {
  count: number;
  at(index: number): KeyValue;
  /** The number of a value, or of the first after it. */
  indexOf(value: KeyValue): number;
  text(value: KeyValue, locale: Locale): string;
  /** What so many of its periods are called. */
  noun(n: number, locale: Locale): string;
}

const dateAxis = (first: string, last: string, grain: Grain): WindowAxis => {
  const low = periodOrdinal(first, grain);
  return {
    count: periodOrdinal(last, grain) - low + 1,
    at: (index) => periodAt(low + index, grain),
    indexOf: (value) => periodOrdinal(String(value), grain) - low,
    text: (value, locale) => keyText(value, locale, 'date', grain),
    noun: (n, locale) => say(locale, 'unit', { n, unit: grain }),
  };
};

/** Whether it counts the calendar, for which no list of what there is is needed. */
const countsCalendar = ({ counts, grain }: WindowLever, { type }: FieldInfo) =>
  counts === 'calendar' && isTemporal(type) && (grain !== undefined || type === 'date');

/**
 * All places there are: those of the data in their order, or where the author says so all periods of the calendar;
 * undefined while the data is not known. Where a chart stands in an order of its own, places are told by their numbers.
 */
export function windowAxis(spec: WindowLever, facts: LeverFacts | undefined): WindowAxis | undefined {
  const field = facts && fieldOf(facts.dataset, spec.field);
  if (!field) return undefined;
  const { min, max } = field.profile ?? {};
  if (countsCalendar(spec, field)) {
    if (typeof min !== 'string' || typeof max !== 'string') return undefined;
    return dateAxis(min.slice(0, 10), max.slice(0, 10), spec.grain ?? 'day');
  }
  const list = listOf(facts, spec);
  if (!list) return undefined;
  const compare = (a: KeyValue, b: KeyValue) =>
    typeof a === 'number' && typeof b === 'number' ? a - b : String(a) < String(b) ? -1 : a === b ? 0 : 1;
  const sorted = isNumeric(field.type) || isTemporal(field.type);
  return {
    count: list.length,
    at: (index) => list[index]?.value ?? null,
    indexOf(value) {
      if (!sorted) return list.findIndex((item) => item.value === value);
      let low = 0;
      let high = list.length;
      while (low < high) {
        const middle = (low + high) >> 1;
        if (compare(list[middle]!.value, value) < 0) low = middle + 1;
        else high = middle;
      }
      return low;
    },
    text: facts.byPlace
      ? (value, locale) => locale.count(list.findIndex((item) => item.value === value) + 1)
      : (value, locale) => keyText(value, locale, field.type, spec.grain),
    noun(n, locale) {
      const unit = spec.grain ?? (field.type === 'date' ? 'day' : undefined);
      if (unit) return say(locale, 'unit', { n, unit });
      const name = locale.inSentence(field.name);
      return n === 1 ? name : locale.plural(name);
    },
  };
}

/** Where a window stands on its axis: the number of its first period and how many are in view. The last page is full. */
export function windowPlace(position: WindowPosition, axis: WindowAxis): { offset: number; length: number } {
  const length = Math.max(0, Math.min(axis.count, Math.round(position.length)));
  const index = position.from === null ? 0 : axis.indexOf(position.from);
  return { offset: Math.max(0, Math.min(axis.count - length, index)), length };
}

/** The position with another first period, kept within the axis. */
export function windowAt(position: WindowPosition, axis: WindowAxis, offset: number): WindowPosition {
  const length = Math.max(1, Math.min(axis.count, position.length));
  const place = Math.max(0, Math.min(axis.count - length, Math.round(offset)));
  return { from: axis.at(place), length: position.length };
}

function startOf(spec: WindowLever, facts: LeverFacts | undefined): WindowPosition {
  const { length } = spec;
  if (typeof spec.start === 'object') return { from: spec.start.from, length };
  const axis = windowAxis(spec, facts);
  if (!axis || axis.count === 0) return { from: null, length };
  return windowAt({ from: null, length }, axis, spec.start === 'last' ? axis.count : 0);
}

/** "12 Mar 2021 – 11 Mar 2022 · 365 of 2,192 days". */
export function windowText(position: WindowPosition, axis: WindowAxis, locale: Locale): string {
  const { offset, length } = windowPlace(position, axis);
  if (axis.count === 0) return say(locale, 'window.none');
  const first = axis.text(axis.at(offset), locale);
  const last = axis.text(axis.at(offset + length - 1), locale);
  return say(locale, 'window.stretch', {
    stretch: first === last ? first : `${first} – ${last}`,
    whole: length === axis.count ? 'yes' : 'no',
    n: length,
    all: axis.count,
    noun: axis.noun(axis.count, locale),
  });
}

export const windowKind: LeverKind<WindowLever, WindowPosition> = {
  kind: 'window',
  Spec: WindowLever,
  get noun() {
    return tell('lever.window.noun');
  },
  clearings: ['start', 'keep'],
  fits: () => true,
  make({ id, name, dataset, dimension }) {
    // Of several years of days a year is seen at a time, of fewer a quarter.
    const days = fieldOf(dataset, dimension!.field)?.profile?.distinct ?? 0;
    const usual = { year: 5, quarter: 8, month: 12, week: 26, day: days > 730 ? 365 : 90 };
    return {
      kind: 'window',
      id,
      name,
      dataset: dataset.id,
      ...dimension!,
      length: dimension!.grain ? usual[dimension!.grain] : 20,
      start: 'last',
      clearing: 'start',
    };
  },
  source: (spec) => spec,
  reads(spec, dataset) {
    const field = fieldOf(dataset, spec.field);
    if (!field || countsCalendar(spec, field)) return null;
    return { keys: [{ field: spec.field, grain: spec.grain }], partials: [{ aggregate: 'count' }] };
  },
  start: startOf,
  startAt: (_spec, position) => ({
    length: position.length,
    ...(position.from === null ? {} : { start: { from: position.from } }),
  }),
  isEmpty: () => false,
  same: (a, b) => a.from === b.from && a.length === b.length,
  clear: (spec, position, facts) => (spec.clearing === 'keep' ? position : startOf(spec, facts)),
  toQuery: ({ from, length }) => [from === null ? '' : valueToText(from), `${length} long`],
  fromQuery(spec, [start = '', size = '']) {
    const from = start === '' ? null : valueFromText(start);
    const length = size === '' ? spec.length : Number.parseInt(size, 10);
    if (from === undefined || !(length >= 1 && length <= 1_000_000)) return undefined;
    return { from, length: spec.resizable ? length : spec.length };
  },
  settle(spec, position, facts) {
    const axis = windowAxis(spec, facts);
    if (!axis || axis.count === 0) return { position };
    const index = position.from === null ? 0 : axis.indexOf(position.from);
    const there = index >= 0 && index < axis.count;
    const wanted = Number.isNaN(index) ? windowPlace(startOf(spec, facts), axis).offset : index;
    const settled = windowAt(position, axis, wanted || 0);
    if (there) {
      if (settled.from === position.from) return { position };
      // The day before the last full page is there; one that is missing gives way to the next that there is.
      const missing = position.from !== null && axis.at(index) !== position.from;
      const notice = (locale: Locale) =>
        say(locale, 'notice.next', { value: axis.text(position.from, locale) });
      return { position: settled, ...(missing ? { notice } : {}) };
    }
    return {
      position: settled,
      notice: (locale) =>
        say(locale, 'notice.beyondPeriods', {
          value: axis.text(position.from, locale),
          from: axis.text(axis.at(0), locale),
          to: axis.text(axis.at(axis.count - 1), locale),
        }),
    };
  },
  summary(spec, position, facts, locale) {
    const axis = windowAxis(spec, facts);
    return axis ? windowText(position, axis, locale) : '';
  },
  stretch(spec, position, facts) {
    const axis = windowAxis(spec, facts);
    if (!axis || axis.count === 0) return null;
    const { offset, length } = windowPlace(position, axis);
    return { from: axis.at(offset), to: axis.at(offset + length - 1), offset, length };
  },
  around(spec, position, facts) {
    const axis = windowAxis(spec, facts);
    if (!axis || axis.count === 0) return null;
    const { offset, length } = windowPlace(position, axis);
    const page = Math.floor(offset / Math.max(1, length)) * length;
    return {
      from: axis.at(Math.max(0, page - length)),
      to: axis.at(Math.min(axis.count, page + 3 * length) - 1),
    };
  },
  touch: {
    takes: 'category',
    fits: (spec, chart) => spec.dataset === chart.dataset && sameDimension(spec, chart.by),
    put(spec, position, { values }, _use, facts) {
      const axis = windowAxis(spec, facts);
      const first = values.find((value) => value !== null);
      return axis && first !== undefined ? windowAt(position, axis, axis.indexOf(first)) : position;
    },
  },
};
