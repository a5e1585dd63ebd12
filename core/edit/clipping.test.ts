import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import { board, chart, quays, years } from '../testing/fixtures';
import { clipChart, clipLever, clippingIn, clipSentence, datasetsRead, pasteClipping } from './clipping';
import { readBoard } from './read-board';

const empty = (): Board => ({ ...structuredClone(board), levers: [], charts: [] });
const carried = (clipping: object) => clippingIn(JSON.stringify(clipping))!;
const problems = (draft: Board) => {
  const reading = readBoard(JSON.parse(JSON.stringify(draft)));
  return reading.ok ? [] : reading.problems;
};

describe('what is copied', () => {
  it('a chart brings its levers, and takes those that are there', () => {
    const clipping = carried(clipChart(board, chart));
    const draft = empty();
    pasteClipping(draft, clipping, undefined);
    expect(draft.levers.map(({ name }) => name)).toEqual(board.levers.map(({ name }) => name));
    pasteClipping(draft, clipping, undefined);
    expect(draft.charts).toHaveLength(2);
    expect(draft.levers).toHaveLength(board.levers.length);
    expect(problems(draft)).toEqual([]);
  });
  it('a sentence is said on the chart in hand, with its lever alone', () => {
    const clipping = carried(clipSentence(board, chart, ['cues', 0]));
    expect(clipping.levers.map(({ id }) => id)).toEqual(['quays']);
    const draft: Board = { ...empty(), charts: [{ ...chart, id: 'other', cues: [], touches: [] }] };
    pasteClipping(draft, clipping, 'other');
    expect(draft.charts).toHaveLength(1);
    expect(draft.charts[0]!.cues.map(({ condition }) => condition)).toEqual([
      { kind: 'member', lever: 'quays' },
    ]);
    expect(draft.levers.map(({ id }) => id)).toEqual(['quays']);
    expect(problems(draft)).toEqual([]);
  });
  it('a lever has a name of its own', () => {
    const draft = { ...empty(), levers: [quays] };
    pasteClipping(draft, carried(clipLever(quays)), undefined);
    expect(draft.levers.map(({ id, name }) => [id, name])).toEqual([
      ['quays', 'Quays'],
      ['quays-2', 'Quays 2'],
    ]);
    expect(datasetsRead(clipLever(years))).toEqual(['landings']);
  });
  it('is nothing else than what was copied here', () => {
    for (const text of [
      '',
      'Quel',
      '{"sorvik":',
      '{"sorvik":"chart"}',
      '{"sorvik":"lever","levers":[{"kind":"dial","id":"a","name":"b"}]}',
      JSON.stringify({ ...clipChart(board, chart), chart: { ...chart, form: 'pie' } }),
      JSON.stringify({
        ...clipChart(board, chart),
        chart: { ...chart, cues: [{ condition: { kind: 'no' } }] },
      }),
      JSON.stringify({ ...clipSentence(board, chart, ['cues', 0]), part: [] }),
    ])
      expect(clippingIn(text), text).toBeNull();
  });
});
