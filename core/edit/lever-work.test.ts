import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import { type Board, leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { NumberLever } from '../levers/number';
import { settledPositions } from '../levers/settled-positions';
import type { SwitchLever } from '../levers/switch';
import { leverUses } from '../pipeline/lever-uses';
import { board, chart, dataset, factsOf, quays, years } from '../testing/fixtures';
import { boardDoubts } from '../text/doubts';
import { titleParts, titleWithIds, titleWithNames } from '../words/title-parts';
import { vocabularyOf } from '../words/vocabulary';
import { copyChartTo, leversOf, standIns } from './copy-chart';
import { readBoard } from './read-board';
import { removeLever } from './remove-lever';

const limit: NumberLever = {
  kind: 'number',
  id: 'limit',
  name: 'Limit',
  min: 0,
  max: 100,
  step: 1,
  start: 20,
  outside: 'nearest',
  clearing: 'start',
};
const shown: SwitchLever = {
  kind: 'switch',
  id: 'shown',
  name: 'Shown',
  on: 'yes',
  off: 'no',
  start: true,
  clearing: 'start',
};
const full: Chart = {
  ...chart,
  title: 'Boats above {limit}, not {nothing}',
  cues: [
    ...chart.cues,
    {
      id: 'above',
      effect: 'light',
      condition: { kind: 'threshold', is: 'above', limit: { lever: 'limit' } },
      look: { colour: 'kelp' },
      resting: 'plain',
      when: 'shown',
    },
    {
      id: 'top',
      effect: 'light',
      condition: { kind: 'rank', count: { lever: 'limit' }, side: 'highest', ties: 'share' },
      look: { colour: 'tide' },
      resting: 'plain',
      off: true,
    },
  ],
  guides: [{ kind: 'line', id: 'limit', at: { lever: 'limit' }, style: 'dashed', when: 'shown' }],
};
const whole: Board = { ...board, levers: [quays, years, limit, shown], charts: [full] };
const copy = <T>(value: T): T => structuredClone(value);

describe('what a chart has to do with levers', () => {
  it('is found in every place that names one', () => {
    expect(leverUses(full).map(({ lever, how, off }) => `${lever} ${how}${off ? ' off' : ''}`)).toEqual([
      'quays lights',
      'years filters',
      'limit lights',
      'shown switches',
      'limit lights off',
      'limit places',
      'shown switches',
      'quays fed',
      'limit titles',
      'nothing titles',
    ]);
  });
  it('a lever that cannot do what it is named for is refused', () => {
    const wrong = copy(whole);
    Object.assign(wrong.charts[0]!.guides[0]!, { at: { lever: 'quays' } });
    wrong.charts[0]!.cues[2]!.when = 'limit';
    const reading = readBoard(wrong);
    expect(reading.ok ? [] : reading.problems).toEqual([
      {
        pointer: '/charts/0/cues/2/when',
        message: '"limit" cannot stand here: this needs a lever that is a switch',
      },
      {
        pointer: '/charts/0/guides/0',
        message: '"quays" cannot stand here: this needs a lever that holds a value',
      },
    ]);
  });
});

describe('a lever that is taken away', () => {
  const without = (id: string, positions: Record<string, unknown> = {}) => {
    const draft = copy(whole);
    removeLever(draft, id, {
      engine: fullEngine,
      lever: (wanted) => leverOf(whole, wanted),
      positionOf: settledPositions(whole.levers, positions, {}),
      today: '2024-12-31',
    });
    expect(readBoard(draft).ok).toBe(true);
    return draft.charts[0]!;
  };
  it('leaves the figures it held, and its name in titles', () => {
    const left = without('limit', { limit: 35 });
    expect(left.cues.slice(2).map((cue) => cue.condition)).toMatchObject([{ limit: 35 }, { count: 35 }]);
    expect(left.guides[0]).toMatchObject({ at: 35 });
    expect(left.title).toBe('Boats above Limit, not {nothing}');
  });
  it('takes sentences along that mean nothing without it', () => {
    const left = without('quays');
    expect(left.cues.map((cue) => cue.id)).toEqual(['filter-years', 'above', 'top']);
    expect(left.touches).toEqual([]);
  });
  it('leaves what it switched always on', () => {
    const left = without('shown');
    expect([left.cues[2]!.when, left.guides[0]!.when]).toEqual([undefined, undefined]);
  });
});

describe('a chart that goes to another board', () => {
  const elsewhere: Board = {
    version: 1,
    title: 'Elsewhere',
    levers: [
      { ...quays, id: 'berths', name: 'Berths' },
      { ...limit, name: 'Other' },
    ],
    charts: [],
  };
  it('knows its levers, and which there could do their work', () => {
    expect(leversOf(full, whole).map(({ id }) => id)).toEqual(['quays', 'years', 'limit', 'shown']);
    expect(standIns(quays, elsewhere).map(({ id }) => id)).toEqual(['berths']);
    expect(standIns(years, elsewhere)).toEqual([]);
  });
  it('brings its levers along under ids of their own, or takes those that are there', () => {
    const draft = copy(elsewhere);
    const id = copyChartTo(draft, full, whole, new Map([['quays', 'berths']]));
    expect(readBoard(JSON.parse(JSON.stringify(draft))).ok).toBe(true);
    expect(draft.levers.map((lever) => lever.id)).toEqual(['berths', 'limit', 'years', 'limit-2', 'shown']);
    const made = draft.charts.find((each) => each.id === id)!;
    expect(leverUses(made).map((use) => use.lever)).toEqual([
      'berths',
      'years',
      'limit-2',
      'shown',
      'limit-2',
      'limit-2',
      'shown',
      'berths',
      'limit-2',
      'nothing',
    ]);
    expect(made.title).toBe('Boats above {limit-2}, not {nothing}');
    expect(full.title).toContain('{limit}');
  });
});

describe('a title with levers in it', () => {
  it('is cut into texts and levers', () => {
    expect(titleParts('A {limit} b{x}')).toEqual(['A ', { lever: 'limit' }, ' b', { lever: 'x' }]);
    expect(titleParts('')).toEqual([]);
    expect(titleParts('{Not An Id}')).toEqual(['{Not An Id}']);
  });
  it('is edited with names and kept with ids', () => {
    expect(titleWithNames('Above {limit}, {gone}', whole)).toBe('Above {Limit}, {gone}');
    expect(titleWithIds('Above { limit }, {LIMIT}, {gone}', whole)).toBe('Above {limit}, {limit}, {gone}');
  });
});

it('what is doubtful is said of levers and charts alike', () => {
  const doubtful: Board = {
    ...whole,
    levers: [
      { ...quays, start: ['Tarsk'] },
      years,
      { ...limit, start: 120 },
      shown,
      { ...shown, id: 'loose', name: 'Loose' },
    ],
    charts: [{ ...full, by: { field: 'day', grain: 'month' } }],
  };
  const texts = boardDoubts(doubtful, factsOf(doubtful.levers), () =>
    vocabularyOf(doubtful, dataset, fullEngine),
  ).map((doubt) => [doubt.lever ?? doubt.chart, doubt.text]);
  expect(texts).toEqual([
    ['quays', 'The start of Quays: Not in the data, ignored: Tarsk.'],
    ['limit', 'The start of Limit: 120 is above the maximum of 100; set to 100.'],
    ['loose', 'Loose reaches no chart.'],
    ['landings', expect.stringContaining('Quays holds quay, and this chart shows month')],
    ['landings', expect.stringContaining('Quays holds quay, and a mark here gives its month.')],
    ['landings', expect.stringContaining('its first month is not whole: the data begin on 4 Jan 2023.')],
  ]);
});
