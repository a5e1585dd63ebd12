import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import { chart, board as plain, quays, years } from '../testing/fixtures';
import { newCue } from './defaults';
import { mergedBoards } from './merge-boards';

const second = { ...chart, id: 'second', title: 'Second' };
const base: Board = { ...plain, title: 'Landings', levers: [quays, years], charts: [chart, second] };
const withChart = (board: Board, id: string, more: object): Board => ({
  ...board,
  charts: board.charts.map((each) => (each.id === id ? { ...each, ...more } : each)),
});
const cue = (id: string) => ({ ...newCue('cue', { kind: 'focus', of: 'mark' } as never, []), id });

describe('two authors of one board', () => {
  it('change different charts, sentences of one chart, words of one sentence: all of it is kept', () => {
    const mine = withChart({ ...base, title: 'Mine' }, chart.id, { title: 'By quay' });
    const theirs = withChart({ ...base, subtitle: 'Theirs' }, 'second', { title: 'By day' });
    expect(mergedBoards(base, mine, theirs)).toEqual({
      ...withChart(withChart(base, chart.id, { title: 'By quay' }), 'second', { title: 'By day' }),
      title: 'Mine',
      subtitle: 'Theirs',
    });
    const form = withChart(base, chart.id, { form: 'columns' });
    const order = withChart(base, chart.id, { order: { by: 'key', direction: 'ascending' } });
    expect(mergedBoards(base, form, order)!.charts[0]).toMatchObject({
      form: 'columns',
      order: { by: 'key', direction: 'ascending' },
    });
  });

  it('add sentences to one chart', () => {
    const mine = withChart(base, chart.id, { cues: [...chart.cues, cue('mine')] });
    const theirs = withChart(base, chart.id, { cues: [...chart.cues, cue('theirs')] });
    const found = mergedBoards(base, mine, theirs)!.charts[0]!.cues.map(({ id }) => id);
    expect(new Set(found)).toEqual(new Set([...chart.cues.map(({ id }) => id), 'mine', 'theirs']));
  });

  it('make the same change: it is made', () => {
    const both = withChart(base, chart.id, { title: 'The same' });
    expect(mergedBoards(base, both, structuredClone(both))).toEqual(both);
  });

  it.each([
    ['one word twice', { ...base, title: 'Mine' }, { ...base, title: 'Theirs' }],
    [
      'one word of a sentence twice',
      withChart(base, chart.id, { title: 'a' }),
      withChart(base, chart.id, { title: 'b' }),
    ],
    ['what the other has removed', withChart(base, 'second', { title: 'a' }), { ...base, charts: [chart] }],
  ] as [string, Board, Board][])('are asked where they change %s', (_, mine, theirs) => {
    expect(mergedBoards(base, mine, theirs)).toBeNull();
    expect(mergedBoards(base, theirs, mine)).toBeNull();
  });

  it('are asked where one names a lever that the other has removed', () => {
    const bare: Board = { ...base, charts: [{ ...chart, cues: [], touches: [] }] };
    const mine: Board = { ...bare, levers: [years] };
    const named = { ...newCue('cue', { kind: 'picked', lever: quays.id } as never, []), id: 'named' };
    const theirs = withChart(bare, chart.id, { cues: [named] });
    expect(mergedBoards(bare, mine, theirs)).toBeNull();
    expect(mergedBoards(bare, mine, { ...bare, title: 'Other' })).toEqual({ ...mine, title: 'Other' });
  });
});

/** Changes of a board: each of one part that is named. */
const change = fc.oneof(
  fc.record({ of: fc.constant('board'), name: fc.constantFrom('title', 'subtitle'), value: fc.string() }),
  fc.record({
    of: fc.constantFrom(chart.id, 'second'),
    name: fc.constantFrom('title', 'form'),
    value: fc.string(),
  }),
);
function made(from: Board, changes: readonly { of: string; name: string; value: string }[]): Board {
  let found = from;
  for (const { of, name, value } of changes)
    found = of === 'board' ? { ...found, [name]: value } : withChart(found, of, { [name]: value });
  return found;
}

it('what only one of them changed is as that one has it; what none did stays', () => {
  fc.assert(
    fc.property(fc.array(change, { maxLength: 4 }), fc.array(change, { maxLength: 4 }), (here, there) => {
      const [mine, theirs] = [made(base, here), made(base, there)];
      const places = (list: typeof here) => new Set(list.map(({ of, name }) => `${of} ${name}`));
      const both = [...places(here)].filter((place) => places(there).has(place));
      const found = mergedBoards(base, mine, theirs);
      if (!both.length) {
        expect(found).toEqual(made(mine, there));
        expect(mergedBoards(base, theirs, mine)).toEqual(found);
      }
      // Whoever has changed nothing takes the other's.
      expect(mergedBoards(base, base, theirs)).toEqual(theirs);
      expect(mergedBoards(base, mine, base)).toEqual(mine);
    }),
  );
});
