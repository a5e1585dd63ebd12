import { expect, it } from 'vitest';
import { board, chart } from '../testing/fixtures';
import { copyChartTo } from './copy-chart';
import { setEvents } from './set-events';

const storm = { id: 'storm', name: 'storm', date: '2021-02-01' };
const pier = { id: 'pier', name: 'pier', date: '2021-06-01' };
const reform = { id: 'reform', name: 'reform', date: '2021-04-01' };
const cue = {
  id: 's',
  effect: 'light' as const,
  condition: { kind: 'segment' as const, only: [0, 2] },
  look: {},
  looks: [{ colour: 'slate' }, { colour: 'kelp' }, { colour: 'tide' }],
  resting: 'plain' as const,
};
const on = () => structuredClone({ ...board, events: [storm, pier], charts: [{ ...chart, cues: [cue] }] });

it('a new event takes no look from the stretches that were there', () => {
  const draft = on();
  setEvents(draft, [storm, pier, reform]);
  const [changed] = draft.charts[0]!.cues;
  expect(changed!.looks).toEqual([{ colour: 'slate' }, { colour: 'kelp' }, {}, { colour: 'tide' }]);
  expect(changed!.condition).toEqual({ kind: 'segment', only: [0, 3] });
});

it('the look of a stretch goes with the event it begins with', () => {
  const draft = on();
  setEvents(draft, [pier]);
  expect(draft.charts[0]!.cues[0]!.looks).toEqual([{ colour: 'slate' }, { colour: 'tide' }]);
  expect(draft.charts[0]!.cues[0]!.condition).toEqual({ kind: 'segment', only: [0, 1] });
  setEvents(draft, [{ ...pier, date: '2020-01-01' }, storm]);
  expect(draft.charts[0]!.cues[0]!.looks).toEqual([{ colour: 'slate' }, { colour: 'tide' }, {}]);
  setEvents(draft, []);
  expect(draft.charts[0]!.cues[0]!.condition).toEqual({ kind: 'segment', only: [0] });
});

it('a chart that speaks of events brings them along to another board, each once', () => {
  const target = structuredClone({ ...board, charts: [], events: [{ ...pier, id: 'other' }] });
  copyChartTo(target, on().charts[0]!, on());
  expect(target.events).toEqual([{ ...pier, id: 'other' }, storm]);
  const without = structuredClone({ ...board, charts: [] });
  copyChartTo(without, chart, on());
  expect('events' in without).toBe(false);
});
