import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Cue } from '../board/cue';
import type { BoardEvent } from '../board/event';
import type { Look } from '../board/look';
import type { ConditionContext } from '../conditions/condition-kind';
import type { Condition } from '../conditions/registry';
import type { SpanMatch } from '../conditions/span';
import { newCue } from '../edit/defaults';
import type { Scene } from '../forms/scene';
import { stretch } from '../testing/fixtures';
import { seriesReadings } from '../testing/readings';
import { emphasise, markStates } from './emphasise';
import { lineStatesOf } from './line-states';
import { linePoints, piecePoints } from './piece-points';

const months = ['2021-01-01', '2021-02-01', '2021-03-01', '2021-04-01'];
const contextOf = (
  readings: ConditionContext['readings'],
  more: Partial<ConditionContext> = {},
): ConditionContext => ({
  readings,
  by: { field: 'day', grain: 'month' },
  lever: () => stretch,
  positionOf: () => null,
  today: '2024-12-31',
  engine: fullEngine,
  ...more,
});
const cue = (condition: Condition, look: Look = { colour: 'ember' }, more: Partial<Cue> = {}): Cue => ({
  ...newCue('cue', condition, []),
  look,
  ...more,
});
const one = seriesReadings({ only: [10, 20, 40, 30] }, months);
const lineStates = (cues: Cue[], context: ConditionContext) => {
  const emphasis = emphasise(cues, context);
  return lineStatesOf(emphasis, context.readings).map(({ state, look, pieces }) => ({
    state: markStates[state],
    look: emphasis.looks[look]?.colour,
    pieces: pieces.map(({ from, to, look: each }) => [from, to, emphasis.looks[each]!.colour]),
  }));
};

describe('a line', () => {
  it('is lit as a whole by what lights all of its points', () => {
    const two = seriesReadings({ a: [1, 2, 3], b: [4, 5, 6] });
    const on = contextOf(two, { focus: 4 });
    expect(lineStates([cue({ kind: 'focus', of: 'series' })], on)).toEqual([
      { state: 'muted', look: undefined, pieces: [] },
      { state: 'lit', look: 'ember', pieces: [] },
    ]);
    expect(
      lineStates([cue({ kind: 'focus', of: 'series' })], contextOf(two, { focusSeries: 0 }))[0]!.state,
    ).toBe('lit');
    expect(
      lineStates([cue({ kind: 'focus', of: 'series' })], contextOf(two)).map(({ state }) => state),
    ).toEqual(['plain', 'plain']);
  });
  it('is lit between points that are both lit', () => {
    expect(lineStates([cue({ kind: 'threshold', is: 'at or above', limit: 20 })], contextOf(one))).toEqual([
      { state: 'muted', look: undefined, pieces: [[1.5, 3.5, 'ember']] },
    ]);
    const alone = cue({ kind: 'rank', count: 1, side: 'highest', ties: 'share' });
    expect(lineStates([alone], contextOf(one))[0]!.pieces).toEqual([]);
  });
  it('is cut exactly where a span begins and ends', () => {
    const on = contextOf(one, { positionOf: () => ({ from: '2021-02-08', to: '2021-03-31' }) });
    // The eighth of February begins after 7 of 28 days; February's place reaches from 1 to 2.
    expect(lineStates([cue({ kind: 'span', lever: 'stretch', match: 'cut' })], on)[0]!.pieces).toEqual([
      [1.25, 3, 'ember'],
    ]);
    const inside = contextOf(one, { positionOf: () => ({ from: '2021-02-20', to: '2021-02-25' }) });
    const [piece] = lineStates([cue({ kind: 'span', lever: 'stretch', match: 'cut' })], inside)[0]!.pieces;
    expect(piece![0]).toBeCloseTo(1 + 19 / 28, 12);
    expect(piece![1]).toBeCloseTo(1 + 25 / 28, 12);
  });
  it('is lit from reading to reading by periods that touch a span, lie in it, or start in it', () => {
    const pieces = (match: SpanMatch, from: string, to: string) =>
      lineStates(
        [cue({ kind: 'span', lever: 'stretch', match })],
        contextOf(one, { positionOf: () => ({ from, to }) }),
      )[0]!.pieces.map(([a, b]) => [a, b]);
    expect(pieces('touching', '2021-02-08', '2021-03-15')).toEqual([[1.5, 2.5]]);
    expect(pieces('whole', '2021-02-08', '2021-03-15')).toEqual([]);
    expect(pieces('starting', '2021-02-08', '2021-04-15')).toEqual([[2.5, 3.5]]);
    expect(pieces('whole', '2021-02-01', '2021-04-30')).toEqual([[1.5, 3.5]]);
  });
  it('is cut at events into stretches with looks of their own', () => {
    const events: BoardEvent[] = [
      { id: 'b', name: 'pier', date: '2021-03-01' },
      { id: 'a', name: 'storm', date: '2021-02-15' },
    ];
    const looks = [{ colour: 'slate' }, { colour: 'kelp' }, { colour: 'tide' }];
    const on = contextOf(one, { events });
    expect(lineStates([cue({ kind: 'segment' }, {}, { looks })], on)[0]!.pieces).toEqual([
      [0.5, 1.5, 'slate'],
      [1.5, 2, 'kelp'],
      [2, 3.5, 'tide'],
    ]);
    const only = cue({ kind: 'segment', only: [1] }, { colour: 'ember' });
    expect(lineStates([only], on)[0]!.pieces).toEqual([[1.5, 2, 'ember']]);
    const not = cue({ kind: 'not', of: { kind: 'segment', only: [1] } });
    expect(lineStates([not], on)[0]!.pieces).toEqual([
      [0.5, 1.5, 'ember'],
      [2, 3.5, 'ember'],
    ]);
  });
  it('joins what is about the axis with what is about values', () => {
    const on = contextOf(one, { positionOf: () => ({ from: '2021-01-01', to: '2021-03-15' }) });
    const both = cue({
      kind: 'all',
      of: [
        { kind: 'span', lever: 'stretch', match: 'cut' },
        { kind: 'threshold', is: 'at or above', limit: 20 },
      ],
    });
    const [[from, to] = []] = lineStates([both], on)[0]!.pieces;
    expect(from).toBe(1.5);
    expect(to).toBeCloseTo(2 + 15 / 31, 12);
  });
  it('is not lit over a reading that is missing', () => {
    const holes = seriesReadings({ a: [1, null, 3, 4, undefined, 6] });
    const all = cue({ kind: 'threshold', is: 'above', limit: 0 });
    expect(lineStates([all], contextOf(holes, { by: { field: 'n' } }))[0]!.pieces).toEqual([
      [2.5, 3.5, 'ember'],
    ]);
  });
  it('of a colour that follows a measure has a piece for each step', () => {
    const colour = { by: 'sign', above: 'kelp', below: 'ember' } as const;
    const { pieces } = lineStates(
      [cue({ kind: 'threshold', is: 'above', limit: 0 }, { colour })],
      contextOf(one),
    )[0]!;
    expect(pieces.map(([from, to]) => [from, to])).toEqual([
      [0.5, 1.5],
      [1.5, 2.5],
      [2.5, 3.5],
    ]);
  });
});

describe('points of a line', () => {
  const holes = seriesReadings({ a: [0, 10, null, 30, 40] });
  const scene = {
    band: { direction: 'x', start: 0, step: 10, count: 5 },
    marks: {
      shape: 'points',
      x: Float64Array.from(holes.place, (place) => (place + 0.5) * 10),
      y: holes.value.map((value) => 100 - value),
    },
  } as unknown as Scene;
  it('are parted where a reading is missing', () => {
    expect(linePoints(scene, holes, 0)).toEqual([
      [5, 100, 15, 90],
      [35, 70, 45, 60],
    ]);
  });
  it('of a piece begin and end on the line itself', () => {
    expect(piecePoints(scene, holes, { from: 0.75, to: 1.25, look: 0, reading: 0 })).toEqual([
      7.5, 97.5, 12.5, 92.5,
    ]);
    expect(piecePoints(scene, holes, { from: 3.5, to: 4.5, look: 0, reading: 3 })).toEqual([35, 70, 45, 60]);
  });
});

describe('what is not lit', () => {
  const top = cue({ kind: 'rank', count: 1, side: 'highest', ties: 'share' });
  it('is gone where the chart says so, and only while something is lit by', () => {
    const states = (cues: Cue[]) =>
      [...emphasise(cues, contextOf(one), { otherwise: 'gone' }).state].map((state) => markStates[state]);
    expect(states([top])).toEqual(['gone', 'gone', 'lit', 'gone']);
    expect(states([cue({ kind: 'focus' })])).toEqual(['plain', 'plain', 'plain', 'plain']);
  });
  it('stays as with the position that stands in for what is not held', () => {
    const standIn = { lever: 'stretch', position: { from: '2021-02-01', to: '2021-02-28' } };
    const emphasis = emphasise(
      [cue({ kind: 'span', lever: 'stretch', match: 'cut' }, {}, { resting: standIn })],
      contextOf(one),
    );
    expect([...emphasis.state].map((state) => markStates[state])).toEqual(['muted', 'lit', 'muted', 'muted']);
    expect(emphasis.evaluations[0]!.standsIn).toBe(true);
  });
});

describe('looks', () => {
  const two = seriesReadings({ a: [5, 50], b: [60, 7] });
  const on = contextOf(two, { by: { field: 'n' } });
  it('of the two sides of a corridor differ; what the cue says holds for both', () => {
    const outside = cue(
      { kind: 'threshold', is: 'outside', limit: 6, upper: 50 },
      { outline: true },
      {
        looks: [{ colour: 'tide' }, { colour: 'ember' }],
      },
    );
    const { look, looks } = emphasise([outside], on);
    expect([...look].map((index) => looks[index])).toEqual([
      { outline: true, colour: 'tide' },
      { outline: true, colour: 'ember' },
      { outline: true, colour: 'ember' },
      undefined,
    ]);
  });
  it('follow the series where the cue says so, and leave room for cues before', () => {
    const seriesLook = (series: number) => ({ colour: ['kelp', 'ochre'][series]! });
    const all = cue({ kind: 'threshold', is: 'above', limit: 6 }, { colour: 'series', weight: 'strong' });
    const first = cue({ kind: 'threshold', is: 'above', limit: 55 }, { colour: 'rosehip' });
    const { look, looks } = emphasise([first, all], on, { seriesLook });
    expect([...look].map((index) => looks[index])).toEqual([
      undefined,
      { colour: 'kelp', weight: 'strong' },
      { colour: 'rosehip', weight: 'strong' },
      { colour: 'ochre', weight: 'strong' },
    ]);
  });
  it('of more cues than there are bits are merged all the same', () => {
    const many = Array.from({ length: 11 }, (_, i) =>
      cue({ kind: 'threshold', is: 'above', limit: i }, i === 10 ? { hatch: true } : {}),
    );
    const { look, looks } = emphasise(many, on);
    expect([...look].map((index) => looks[index])).toEqual([{}, { hatch: true }, { hatch: true }, {}]);
  });
});
