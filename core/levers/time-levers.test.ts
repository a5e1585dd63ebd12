import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { DatasetInfo } from '../data/dataset';
import { type Grain, grains } from '../data/dimension';
import { addDays, isDateText, periodAt, periodEnd, periodOrdinal, periodStart } from '../data/periods';
import { english } from '../messages/locale';
import { facts, stretch } from '../testing/fixtures';
import { inWords } from '../testing/in-words';
import { type ClockLever, clock, clockAt, clockText } from './clock';
import type { LeverFacts } from './lever-kind';
import { type SpanLever, span, spanAxis } from './span';
import type { spanPresets } from './span-presets';
import { type WindowLever, windowAt, windowAxis, windowKind, windowPlace, windowText } from './window';
import { clockUnits, instantOf, localFromText, localText, localTime, nextBoundary } from './zone-time';

const anyDay = fc.integer({ min: 0, max: 40_000 }).map((n) => periodAt(n - 3000, 'day'));

describe('periods', () => {
  it('are numbered so that neighbours differ by one, and named by their first day', () => {
    fc.assert(
      fc.property(anyDay, fc.constantFrom(...grains), (day, grain) => {
        const ordinal = periodOrdinal(day, grain);
        const start = periodStart(day, grain);
        const end = periodEnd(day, grain);
        expect(start <= day && day <= end).toBe(true);
        expect(periodOrdinal(start, grain)).toBe(ordinal);
        expect(periodOrdinal(addDays(end, 1), grain)).toBe(ordinal + 1);
        expect(periodOrdinal(addDays(start, -1), grain)).toBe(ordinal - 1);
        expect(periodAt(ordinal, grain)).toBe(start);
      }),
    );
  });
  it('know weeks, quarters and leap days', () => {
    expect(periodStart('2024-03-03', 'week')).toBe('2024-02-26');
    expect(periodEnd('2024-02-10', 'month')).toBe('2024-02-29');
    expect([periodStart('2021-05-31', 'quarter'), periodEnd('2021-05-31', 'quarter')]).toEqual([
      '2021-04-01',
      '2021-06-30',
    ]);
    expect(isDateText('2023-02-29')).toBe(false);
    expect(isDateText('2024-02-29')).toBe(true);
  });
});

const dated = (first: string, last: string, grain?: Grain): DatasetInfo => ({
  id: 'd',
  name: 'D',
  version: 1,
  rows: 1,
  fields: [
    {
      key: 'day',
      name: 'Day',
      type: 'date',
      profile: { count: 1, distinct: 1, missing: 0, min: first, max: last, ...(grain ? { grain } : {}) },
    },
    {
      key: 'n',
      name: 'N',
      type: 'decimal',
      profile: { count: 1, distinct: 9, missing: 0, min: 0.5, max: 9.75 },
    },
  ],
});
const sixYears = { dataset: dated('2019-01-01', '2024-12-31') };

describe('a span', () => {
  it('keeps the days that were typed, however it moves', () => {
    const byMonth: SpanLever = { ...stretch, grain: 'month' };
    const typed = { from: '2021-03-05', to: '2021-04-02' };
    expect(inWords(span.settle(byMonth, typed, sixYears))).toEqual({ position: typed });
  });
  it('over monthly data reaches to the end of the last month, by day and by name', () => {
    const monthly = { dataset: dated('2021-04-01', '2024-03-01', 'month') };
    const typed = { from: '2024-01-15', to: '2024-03-31' };
    expect(inWords(span.settle(stretch, typed, monthly))).toEqual({ position: typed });
    expect(span.settle(stretch, { from: '2024-01-15', to: '2024-04-30' }, monthly).position).toEqual(typed);
    const named = (start: 'last 12 months' | 'latest year' | 'latest month' | 'everything') =>
      span.start({ ...stretch, start }, monthly);
    expect(named('last 12 months')).toEqual({ from: '2023-04-01', to: '2024-03-31' });
    expect(named('latest year')).toEqual({ from: '2024-01-01', to: '2024-03-31' });
    expect(named('latest month')).toEqual({ from: '2024-03-01', to: '2024-03-31' });
    expect(named('everything')).toEqual({ from: '2021-04-01', to: '2024-03-31' });
  });
  it('is cut to the data, and says so', () => {
    expect(inWords(span.settle(stretch, { from: '2018-05-01', to: '2019-02-01' }, sixYears))).toEqual({
      position: { from: '2019-01-01', to: '2019-02-01' },
      notice: 'The data runs from 1 Jan 2019 – 31 Dec 2024: cut to that.',
    });
    expect(inWords(span.settle(stretch, { from: '2030-05-01', to: '2031-02-01' }, sixYears))).toEqual({
      position: null,
      notice: '1 May 2030 – 1 Feb 2031 is outside the data (1 Jan 2019 – 31 Dec 2024).',
    });
    expect(inWords(span.settle(stretch, { from: 3, to: 5 }, sixYears))).toMatchObject({ position: null });
  });
  it('reads from an address either way round, and not at all from nonsense', () => {
    expect(span.fromQuery(stretch, ['2021-03-05..2021-01-02'])).toEqual({
      from: '2021-01-02',
      to: '2021-03-05',
    });
    expect(span.fromQuery(stretch, [''])).toBeNull();
    for (const text of ['2021-13-05..2021-01-02', 'x..y', '2021-01-01', '3..2021-01-01', '1..2..3'])
      expect(span.fromQuery(stretch, [text])).toBeUndefined();
  });
  it('has usual stretches counted back from the last day of the data', () => {
    const at = (start: (typeof spanPresets)[number], grain: 'day' | 'month' = 'day') =>
      span.start({ ...stretch, start, grain }, sixYears);
    expect(at('last 30 days')).toEqual({ from: '2024-12-02', to: '2024-12-31' });
    expect(at('last 12 months')).toEqual({ from: '2024-01-01', to: '2024-12-31' });
    expect(at('year before')).toEqual({ from: '2023-01-01', to: '2023-12-31' });
    expect(at('latest quarter')).toEqual({ from: '2024-10-01', to: '2024-12-31' });
    const short = { dataset: dated('2024-11-20', '2024-12-05') };
    expect(span.start({ ...stretch, start: 'last 30 days' }, short)).toEqual({
      from: '2024-11-20',
      to: '2024-12-05',
    });
    expect(span.start({ ...stretch, start: 'year before' }, short)).toBeNull();
  });
  it('takes marks by their whole periods', () => {
    const put = (values: string[], use: 'replace' | 'add' = 'replace', before: null | object = null) =>
      span.touch!.put(
        stretch,
        before as never,
        { values, by: { field: 'day', grain: 'month' }, figure: 0 },
        use,
        sixYears,
      );
    expect(put(['2021-03-01', '2021-02-01'])).toEqual({ from: '2021-02-01', to: '2021-03-31' });
    expect(put(['2021-06-01'], 'add', { from: '2021-03-04', to: '2021-03-09' })).toEqual({
      from: '2021-03-04',
      to: '2021-06-30',
    });
  });
  it('comes back from its address, within the data, from <= to, after any moves', () => {
    const axis = spanAxis(stretch, sixYears)!;
    fc.assert(
      fc.property(anyDay, anyDay, fc.constantFrom(...grains), (a, b, grain) => {
        const lever = { ...stretch, grain };
        const { position } = span.settle(lever, span.fromQuery(lever, [`${a}..${b}`])!, sixYears);
        if (!position) return;
        expect(position.from! <= position.to!).toBe(true);
        expect(String(position.to) >= axis.from(axis.min)!).toBe(true);
        expect(span.fromQuery(lever, span.toQuery(position))).toEqual(position);
        expect(span.settle(lever, position, sixYears).position).toBe(position);
      }),
    );
  });
  it('spans numbers as they were typed, within the data', () => {
    const numbers: SpanLever = { ...stretch, field: 'n', step: 0.5 };
    delete (numbers as Partial<SpanLever>).grain;
    expect(span.settle(numbers, { from: 1.1, to: 20 }, sixYears).position).toEqual({ from: 1.1, to: 9.75 });
  });
});

describe('a window', () => {
  const days: WindowLever = {
    kind: 'window',
    id: 'w',
    name: 'W',
    dataset: 'd',
    field: 'day',
    grain: 'day',
    length: 365,
    counts: 'calendar',
    start: 'last',
    clearing: 'start',
  };
  /** A table with every third day of 2021. */
  const present = Array.from({ length: 120 }, (_, i) => addDays('2021-01-01', i * 3));
  const sparse: LeverFacts = {
    dataset: dated('2021-01-01', present.at(-1)!),
    cube: {
      cells: 120,
      dimensions: [
        {
          field: 'day',
          grain: 'day',
          values: [...present].reverse(),
          codes: Int32Array.from({ length: 120 }, (_, i) => i),
        },
      ],
      partials: [{ aggregate: 'count', values: new Float64Array(120).fill(1) }],
    },
  };
  it('counts the days that there are, unless the author wants the calendar', () => {
    const counted: WindowLever = { ...days, length: 40, counts: 'present' };
    const axis = windowAxis(counted, sparse)!;
    expect(axis.count).toBe(120);
    for (let offset = 0; offset <= 80; offset++) {
      const stretched = windowKind.stretch!(
        counted,
        windowAt({ from: null, length: 40 }, axis, offset),
        sparse,
      )!;
      const { from, to } = stretched;
      expect(present.filter((day) => day >= String(from) && day <= String(to))).toHaveLength(40);
      expect([stretched.offset, stretched.length]).toEqual([offset, 40]);
    }
    expect(windowKind.summary(counted, { from: '2021-01-04', length: 40 }, sparse, english)).toBe(
      '4 Jan 2021 – 1 May 2021 · 40 of 120 days',
    );
    expect(windowKind.reads!(counted, sparse.dataset)).toMatchObject({
      keys: [{ field: 'day', grain: 'day' }],
    });
    expect(windowKind.reads!(days, sparse.dataset)).toBeNull();
    expect(windowAxis(days, sparse)!.count).toBe(358);
  });
  it('asks around what is in view for as much on either side, and for the same while it moves little', () => {
    const counted: WindowLever = { ...days, length: 10, counts: 'present' };
    const axis = windowAxis(counted, sparse)!;
    const asked = new Set<string>();
    for (let offset = 0; offset <= 110; offset++) {
      const position = windowAt({ from: null, length: 10 }, axis, offset);
      const { from, to } = windowKind.around!(counted, position, sparse)!;
      const [first, last] = [axis.indexOf(from), axis.indexOf(to)];
      expect(first).toBeLessThanOrEqual(Math.max(0, offset - 10));
      expect(last).toBeGreaterThanOrEqual(Math.min(119, offset + 19));
      expect(last - first).toBeLessThan(40);
      asked.add(`${from} ${to}`);
    }
    expect(asked.size).toBe(12);
  });
  it('says so when a day is missing, and goes on with the next', () => {
    const counted: WindowLever = { ...days, length: 40, counts: 'present' };
    expect(inWords(windowKind.settle(counted, { from: '2021-01-05', length: 40 }, sparse))).toEqual({
      position: { from: '2021-01-07', length: 40 },
      notice: '5 Jan 2021 is not in the data; set to the next that is.',
    });
  });
  it('along an order of the chart’s own tells places by their numbers', () => {
    const counted: WindowLever = { ...days, length: 40, counts: 'present' };
    const byPlace = { ...sparse, byPlace: true as const };
    expect(windowKind.summary(counted, { from: '2021-01-04', length: 40 }, byPlace, english)).toBe(
      '2 – 41 · 40 of 120 days',
    );
  });
  it('says what is in view, counted by the calendar', () => {
    const axis = windowAxis(days, sixYears)!;
    expect(windowText({ from: '2021-03-12', length: 365 }, axis, english)).toBe(
      '12 Mar 2021 – 11 Mar 2022 · 365 of 2,192 days',
    );
    expect(windowText({ from: '2021-03-12', length: 9999 }, axis, english)).toBe(
      '1 Jan 2019 – 31 Dec 2024 · all 2,192 days',
    );
  });
  it('starts at the first or last full page, or where it is told', () => {
    expect(windowKind.start(days, sixYears)).toEqual({ from: '2024-01-02', length: 365 });
    expect(windowKind.start({ ...days, start: 'first' }, sixYears).from).toBe('2019-01-01');
    expect(windowKind.start({ ...days, start: { from: '2020-02-02' } }, sixYears).from).toBe('2020-02-02');
  });
  it('says when it is told a period that is not there', () => {
    expect(inWords(windowKind.settle(days, { from: '2030-01-01', length: 365 }, sixYears))).toEqual({
      position: { from: '2024-01-02', length: 365 },
      notice: '1 Jan 2030 is not in the data, which runs from 1 Jan 2019 to 31 Dec 2024.',
    });
    expect(windowKind.settle(days, { from: 'x', length: 365 }, sixYears).position.from).toBe('2024-01-02');
  });
  it('stays within the data with a full last page, whatever is done to it', () => {
    const moves = fc.array(
      fc.oneof(
        fc.integer({ min: -3000, max: 3000 }).map((offset) => ({ offset })),
        anyDay.map((from) => ({ from })),
        fc.integer({ min: 1, max: 5000 }).map((length) => ({ length })),
        fc.tuple(anyDay, anyDay).map(([a, b]) => ({ data: a < b ? [a, b] : [b, a] })),
      ),
    );
    fc.assert(
      fc.property(moves, fc.constantFrom(...grains), (all, grain) => {
        const lever = { ...days, grain, resizable: true };
        let known = sixYears;
        let position = windowKind.start(lever, known);
        for (const move of all) {
          if ('data' in move) known = { dataset: dated(move.data[0]!, move.data[1]!) };
          const axis = windowAxis(lever, known)!;
          if ('offset' in move) position = windowAt(position, axis, move.offset);
          if ('from' in move) position = { ...position, from: move.from };
          if ('length' in move) position = { ...position, length: move.length };
          position = windowKind.settle(lever, position, known).position;
          const { offset, length } = windowPlace(position, axis);
          expect(offset).toBeGreaterThanOrEqual(0);
          expect(offset + length).toBeLessThanOrEqual(axis.count);
          expect(length).toBe(Math.min(axis.count, position.length));
          expect(axis.indexOf(position.from)).toBe(offset);
          expect(windowKind.fromQuery(lever, windowKind.toQuery(position))).toEqual(position);
          expect(inWords(windowKind.settle(lever, position, known))).toEqual({ position });
        }
      }),
    );
  });
  it('moves along values of any kind', () => {
    const byQuay: WindowLever = { ...days, field: 'quay', length: 2 };
    delete (byQuay as Partial<WindowLever>).grain;
    expect(windowKind.start(byQuay, facts)).toEqual({ from: 'Ostrin', length: 2 });
    expect(windowKind.stretch!(byQuay, { from: 'Harl', length: 2 }, facts)).toEqual({
      from: 'Harl',
      to: 'Ostrin',
      offset: 0,
      length: 2,
    });
  });
});

describe('a clock', () => {
  const lever: ClockLever = {
    kind: 'clock',
    id: 'now',
    name: 'Now',
    unit: 'hour',
    zone: 'Europe/Paris',
    clearing: 'start',
  };
  const at = (text: string) => Date.parse(`${text}Z`);
  it('shows the time of its zone', () => {
    expect(localText(localTime(at('2024-07-01T22:30:05'), 'Europe/Paris'))).toBe('2024-07-02T00:30:05');
    expect(localTime(at('2024-07-01T22:30:05'), 'Europe/Paris').weekday).toBe(2);
    expect(localText(localTime(at('2024-07-01T22:30:05'), 'Asia/Kathmandu'))).toBe('2024-07-02T04:15:05');
  });
  it('finds the instant of a time, across changes of the clocks too', () => {
    const instant = (text: string) =>
      new Date(instantOf(localFromText(text)!, 'Europe/Paris')).toISOString().slice(0, 19);
    expect(instant('2024-07-02T00:30:05')).toBe('2024-07-01T22:30:05');
    expect(instant('2024-10-27T02:30:00')).toBe('2024-10-27T00:30:00');
    expect(instant('2024-03-31T02:30:00')).toBe('2024-03-31T01:30:00');
  });
  it('knows the next boundary of every unit, also where the clocks change', () => {
    const next = (unit: (typeof clockUnits)[number], from: string, zone = 'Europe/Paris') =>
      new Date(nextBoundary(at(from), unit, zone)).toISOString().slice(0, 19);
    expect(next('second', '2024-07-01T10:00:00')).toBe('2024-07-01T10:00:01');
    expect(next('minute', '2024-07-01T10:00:59')).toBe('2024-07-01T10:01:00');
    expect(next('hour', '2024-07-01T10:59:58')).toBe('2024-07-01T11:00:00');
    expect(next('hour', '2024-07-01T10:20:00', 'Asia/Kathmandu')).toBe('2024-07-01T11:15:00');
    expect(next('day', '2024-10-27T10:00:00')).toBe('2024-10-27T23:00:00');
    expect(next('day', '2024-03-31T10:00:00')).toBe('2024-03-31T22:00:00');
    expect(next('month', '2024-02-10T10:00:00')).toBe('2024-02-29T23:00:00');
  });
  it('never misses and never repeats a boundary', () => {
    const zone = fc.constantFrom('UTC', 'Europe/Paris', 'America/St_Johns', 'Australia/Lord_Howe');
    const instant = fc.integer({ min: at('2023-01-01T00:00:00'), max: at('2025-12-31T00:00:00') });
    const shown = (n: number, unit: (typeof clockUnits)[number], z: string) =>
      clockText(unit, localText(localTime(n, z)), english);
    fc.assert(
      fc.property(instant, fc.constantFrom(...clockUnits), zone, (from, unit, z) => {
        const boundary = nextBoundary(from, unit, z);
        expect(boundary).toBeGreaterThan(from);
        expect(shown(boundary, unit, z)).not.toBe(shown(from, unit, z));
        if (boundary - 1000 >= from) expect(shown(boundary - 1000, unit, z)).toBe(shown(from, unit, z));
      }),
    );
  });
  it('held stands still, or runs on at its speed', () => {
    const real = at('2026-01-01T00:00:00');
    const held = (speed: number, after: number) =>
      clockAt(lever, { at: '2024-03-05T10:59:58', speed, since: real }, real + after).now;
    expect(held(0, 60_000)).toBe('2024-03-05T10:59:58');
    expect(held(1, 2000)).toBe('2024-03-05T11:00:00');
    expect(held(3600, 1000)).toBe('2024-03-05T11:59:58');
    expect(clockAt(lever, null, real).now).toBe('2026-01-01T01:00:00');
  });
  it('has its hold in the address', () => {
    const position = { now: '2024-03-05T10:59:58', hold: { at: '2024-03-05T10:59:58', speed: 60, since: 5 } };
    expect(clock.toQuery(position)).toEqual(['2024-03-05T10:59:58', '60x']);
    expect(clock.fromQuery(lever, clock.toQuery(position))).toEqual({
      ...position,
      hold: { ...position.hold, since: 0 },
    });
    expect(clock.fromQuery(lever, ['2024-02-30T10:00:00'])).toBeUndefined();
    expect(clock.fromQuery(lever, ['2024-03-05T10:00:00', '-3x'])).toBeUndefined();
  });
});
