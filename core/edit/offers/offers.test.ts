import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it, vi } from 'vitest';
import type { Board } from '../../board/board';
import { conditionKinds } from '../../conditions/registry';
import type { DatasetInfo } from '../../data/dataset';
import type { ClockLever } from '../../levers/clock';
import { every } from '../../testing/every-condition';
import { board, chart, dataset } from '../../testing/fixtures';
import { vocabularyOf } from '../../words/vocabulary';
import { readBoard } from '../read-board';
import { renameMeasure } from '../rename-measure';
import { clockUnitsOf } from './axis';
import { makeCondition } from './join';
import { leverWith } from './lever-with';
import { roundBounds } from './limits';
import { offersFor } from './offers-for';

const bare = (changes: object = {}): Board => ({
  ...board,
  levers: [],
  charts: [{ ...chart, cues: [], touches: [], ...changes }],
});
const offersOn = (on: Board) =>
  offersFor({
    chart: on.charts[0]!,
    board: on,
    dataset,
    words: vocabularyOf(on, dataset, fullEngine),
    range: { min: 7, max: 40 },
  });
const accepted = (id: string, on = bare()): Board => {
  const draft = structuredClone(on);
  offersOn(on)
    .find((offer) => offer.id === id)!
    .accept(draft);
  return draft;
};

describe('every sentence that is offered', () => {
  const places = [
    bare(),
    bare({ by: { field: 'day', grain: 'month' }, order: { by: 'key', direction: 'ascending' } }),
    bare({ by: { field: 'boats' }, order: { by: 'key', direction: 'ascending' } }),
  ];
  it.each(
    places.flatMap((on) => offersOn(on).map((offer) => [on.charts[0]!.by.field, offer.id, on] as const)),
  )('by %s, %s: makes a sound board', (_field, id, on) => {
    const reading = readBoard(JSON.parse(JSON.stringify(accepted(id, on))));
    expect(reading.ok ? [] : reading.problems).toEqual([]);
  });
});

it('shows the same figures in a table as well, once, with all that lights them', () => {
  const on = accepted('table', accepted('light'));
  const [first, second] = on.charts;
  expect(second).toMatchObject({ form: 'table', by: first!.by, cues: first!.cues, touches: first!.touches });
  expect(second!.title).toBe('Boats by quay, as a table');
  expect(offersOn(on).some(({ id }) => id === 'table')).toBe(false);
});

it('begins with two events that part the dates in three, and draws them', () => {
  const on = accepted('segments', bare({ by: { field: 'day', grain: 'month' } }));
  expect(on.events).toHaveLength(2);
  expect(on.events![0]!.date < on.events![1]!.date).toBe(true);
  expect(on.charts[0]!.guides).toEqual([{ kind: 'event', id: 'events' }]);
  expect(on.charts[0]!.cues[0]!.looks).toHaveLength(3);
});

it('keeps twenty of many and some of few', () => {
  const kept = (distinct: number) => {
    const many = {
      ...dataset,
      fields: dataset.fields.map((field) => ({
        ...field,
        profile: { count: 500, missing: 0, min: 'a', max: 'z', distinct },
      })),
    };
    const draft = bare();
    const words = vocabularyOf(draft, many, fullEngine);
    offersFor({ chart: draft.charts[0]!, board: draft, dataset: many, words })
      .find(({ id }) => id === 'keep top')!
      .accept(draft);
    return draft.levers.find((lever) => lever.kind === 'number')!.start;
  };
  expect([2, 4, 11, 24, 25, 220].map(kept)).toEqual([1, 3, 5, 5, 20, 20]);
});

it('a kind that is new to the registry is offered as it says itself, and accepted as it makes itself', () => {
  const { get, all } = conditionKinds;
  const kinds = vi.spyOn(conditionKinds, 'all').mockImplementation(() => [...all(), every]);
  const found = vi
    .spyOn(conditionKinds, 'get')
    .mockImplementation((kind) => (kind === every.kind ? every : get(kind)));
  try {
    expect(offersOn(bare()).find(({ id }) => id === 'every')?.text).toBe(
      'Lights bars that are every 3rd one',
    );
    expect(accepted('every').charts[0]!.cues[0]!.condition).toEqual({ kind: 'every', nth: 3 });
    // What is said is not offered again.
    expect(offersOn(accepted('every')).map(({ id }) => id)).not.toContain('every');
  } finally {
    kinds.mockRestore();
    found.mockRestore();
  }
});

it('a count comes with the side it is counted from, and ends at the number of categories', () => {
  const { levers, charts } = accepted('top');
  expect(levers).toMatchObject([
    { kind: 'number', name: 'Count', min: 0, max: { of: 'values', field: 'quay' } },
    { kind: 'choice', name: 'Side' },
  ]);
  expect(charts[0]!.cues[0]!.condition).toEqual({
    kind: 'rank',
    count: { lever: 'count' },
    side: { lever: 'side' },
    ties: 'share',
  });
});

it('a rehearsed change comes with its lever, beside the figures as they are', () => {
  const { levers, charts } = accepted('rehearsal');
  expect(levers).toMatchObject([{ kind: 'number', name: 'Change', min: -50, max: 50, start: 10 }]);
  expect(charts[0]!.also).toEqual([
    {
      measure: {
        aggregate: 'formula',
        text: '(SUM(boats)) * (1 + :change / 100)',
        name: 'with the change applied',
      },
      base: 'muted',
    },
  ]);
});

describe('on a chart that rehearses a change', () => {
  const rehearsed = accepted('rehearsal');
  const changed = rehearsed.charts[0]!.also![0]!.measure;

  it('what is offered goes by the changed figures, and says so', () => {
    for (const id of ['top', 'limits', 'above']) {
      const { cues } = accepted(id, rehearsed).charts[0]!;
      expect(cues.length, id).toBeGreaterThan(0);
      for (const { condition } of cues) expect(condition, id).toMatchObject({ measure: changed });
    }
    const on = accepted('top', rehearsed);
    const [cue] = on.charts[0]!.cues;
    const words = vocabularyOf(on, dataset, fullEngine);
    const said = conditionKinds
      .get('rank')
      .parts(cue!.condition, words, on.charts[0]!)
      .map((part) => (typeof part === 'string' ? part : part.text))
      .join('');
    expect(said).toContain('with the change applied');
    const draft = structuredClone(rehearsed);
    expect(makeCondition('rank', draft, draft.charts[0]!, dataset)).toMatchObject({ measure: changed });
  });

  it('sentences follow when the change is written in another way', () => {
    const draft = structuredClone(accepted('top', rehearsed)).charts[0]!;
    const other = { ...changed, text: '(SUM(boats)) + :change' };
    renameMeasure(draft, changed, other);
    expect(draft.cues[0]!.condition).toMatchObject({ measure: other });
    // Those that go by another measure stay with that.
    renameMeasure(draft, changed, { aggregate: 'count' });
    expect(draft.cues[0]!.condition).toMatchObject({ measure: other });
  });
});

it('limits come with a cue and a line on each side, in looks of their own', () => {
  const { levers, charts } = accepted('limits');
  expect(levers).toMatchObject([{ kind: 'limits', as: 'value', min: 0, max: 40 }]);
  const { cues, guides } = charts[0]!;
  expect(cues.map((cue) => cue.condition)).toMatchObject([
    { kind: 'threshold', is: 'at or above', limit: { part: 'high' } },
    { kind: 'threshold', is: 'below', limit: { part: 'low' } },
  ]);
  expect(new Set(cues.map((cue) => cue.look.colour)).size).toBe(2);
  expect(guides).toMatchObject([
    { kind: 'line', at: { lever: 'limits', part: 'high' } },
    { kind: 'line', at: { lever: 'limits', part: 'low' } },
  ]);
});

it('a stretch is brushed where the marks rise along their axis', () => {
  const rising = bare({ by: { field: 'day', grain: 'month' }, order: { by: 'key', direction: 'ascending' } });
  expect(accepted('span', rising).charts[0]!.touches).toEqual([{ gesture: 'drag', lever: 'day-from-to' }]);
  // A line is cut where the stretch ends; a column is touched by it or not.
  const matchOf = (form: string) =>
    accepted('span', { ...rising, charts: [{ ...rising.charts[0]!, form } as never] }).charts[0]!.cues[0]!
      .condition;
  expect(matchOf('line')).toMatchObject({ match: 'cut' });
  expect(matchOf('columns')).toMatchObject({ match: 'touching' });
  const bySize = bare({ by: { field: 'day', grain: 'month' } });
  expect(accepted('span', bySize).charts[0]!.touches).toEqual([]);
});

it('nothing is offered twice', () => {
  const ids = (on: Board) => offersOn(on).map((offer) => offer.id);
  expect(new Set(ids(bare())).size).toBe(ids(bare()).length);
  expect(ids(accepted('top'))).not.toContain('top');
  const dated = bare({ by: { field: 'day', grain: 'month' }, order: { by: 'key', direction: 'ascending' } });
  for (const id of ['span', 'window', 'clock']) {
    expect(ids(dated)).toContain(id);
    expect(ids(accepted(id, dated))).not.toContain(id);
  }
});

it('bounds are round, hold the range and zero, in a hundred steps or so', () => {
  for (const [min, max] of [
    [7, 40],
    [-3.2, 18],
    [0, 0],
    [1200, 987_654],
    [-5, -1],
  ] as const) {
    const bounds = roundBounds({ min, max });
    expect(bounds.min).toBeLessThanOrEqual(Math.min(0, min));
    expect(bounds.max).toBeGreaterThanOrEqual(max);
    const steps = (bounds.max - bounds.min) / bounds.step;
    expect(steps).toBeGreaterThan(60);
    expect(steps).toBeLessThan(400);
  }
});

it('a clock is offered for fields that look like one, by their names or by how far they reach', () => {
  const field = (key: string, type: 'integer' | 'text' | 'decimal' = 'integer', ends?: [number, number]) => ({
    key,
    name: key,
    type,
    ...(ends ? { profile: { count: 9, distinct: 9, missing: 0, min: ends[0], max: ends[1] } } : {}),
  });
  expect(clockUnitsOf(field('departure_hour'), undefined)).toEqual(['hour']);
  expect(clockUnitsOf(field('weekday', 'text'), undefined)).toEqual(['weekday']);
  expect(clockUnitsOf(field('weekday', 'integer', [1, 7]), undefined)).toEqual(['weekday']);
  expect(clockUnitsOf(field('hour', 'decimal'), undefined)).toEqual([]);
  expect(clockUnitsOf(field('boats'), undefined)).toEqual([]);
  expect(clockUnitsOf(field('day'), 'week')).toEqual(['day']);
  // Nobody called it so, but it can be nothing else.
  expect(clockUnitsOf(field('h', 'integer', [0, 23]), undefined)).toEqual(['hour']);
  expect(clockUnitsOf(field('tick', 'integer', [0, 59]), undefined)).toEqual(['second', 'minute']);
  // It says hours, and is none.
  expect(clockUnitsOf(field('hours_worked', 'integer', [0, 2000]), undefined)).toEqual([]);
});

it('the clock of the board is taken, made to change as often as is needed', () => {
  const hours: DatasetInfo = {
    ...dataset,
    fields: [
      ...dataset.fields,
      {
        key: 'minute',
        name: 'Minute',
        type: 'integer',
        profile: { count: 9, distinct: 60, missing: 0, min: 0, max: 59 },
      },
    ],
  };
  const now: ClockLever = {
    kind: 'clock',
    id: 'now',
    name: 'Now',
    unit: 'hour',
    zone: 'UTC',
    clearing: 'start',
  };
  const on: Board = { ...bare({ by: { field: 'minute' } }), levers: [now] };
  const words = vocabularyOf(on, hours, fullEngine);
  const offer = offersFor({ chart: on.charts[0]!, board: on, dataset: hours, words }).find(
    ({ id }) => id === 'clock',
  )!;
  expect(offer.text).toBe('Lights the bar of the current minute');
  const draft = structuredClone(on);
  offer.accept(draft);
  expect(draft.levers).toEqual([{ ...now, unit: 'minute' }]);
  const { condition } = draft.charts[0]!.cues[0]!;
  expect(condition).toEqual({ kind: 'clock', lever: 'now', unit: 'minute' });
  const kind = conditionKinds.get('clock');
  const unfit = (spec: object, lever: ClockLever) => kind.unfit(spec, on.charts[0]!, () => lever, words);
  expect(unfit(condition, now)).toBe('Now changes with each hour: it cannot tell the minute.');
  expect(unfit({ kind: 'clock', lever: 'now' }, now)).toBe(
    "A clock's hour is 0 to 23, and minute is 0 to 59.",
  );
  expect(unfit(condition, draft.levers[0] as ClockLever)).toBeNull();
});

it('a lever is made for what a sentence needs of it', () => {
  const made = (ability: Parameters<typeof leverWith>[0]) => leverWith(ability, chart, dataset, []);
  expect(made('values')).toMatchObject({ kind: 'pick', field: 'quay' });
  expect(made('figure')).toMatchObject({ kind: 'number', name: 'Limit' });
  expect(made('share')).toMatchObject({ kind: 'limits', as: 'share' });
  // Quays cannot be spanned: the only date there is can.
  expect(made('interval')).toMatchObject({ kind: 'span', field: 'day', grain: 'day' });
  expect(made('side')).toMatchObject({ kind: 'choice', options: [{}, {}] });
});

it('a title is offered that sets the reference of a lever holds', () => {
  const on = accepted('light');
  const titled = accepted('title', on);
  expect(titled.charts[0]!.title).toBe(`Boats by quay: {${titled.levers[0]!.id}}`);
  expect(offersOn(titled).map(({ id }) => id)).not.toContain('title');
  expect(offersOn(bare()).map(({ id }) => id)).not.toContain('title');
});

it('months are offered to be lit by years, made there or taken from the board', () => {
  const months = bare({ by: { field: 'day', grain: 'month' }, order: { by: 'key', direction: 'ascending' } });
  const made = accepted('light years', months);
  expect(made.levers[0]).toMatchObject({ kind: 'pick', field: 'day', grain: 'year' });
  const again = { ...months, levers: made.levers };
  const offer = offersOn(again).find(({ id }) => id.startsWith('light by'));
  expect(offer?.text).toBe('Lights the bars whose year is in Year');
  expect(offersOn(again).map(({ id }) => id)).not.toContain('light years');
  expect(accepted(offer!.id, again).levers).toHaveLength(1);
});
