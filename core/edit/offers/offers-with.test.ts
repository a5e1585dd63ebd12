import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import { leverUses } from '../../pipeline/lever-uses';
import { board, chart, dataset } from '../../testing/fixtures';
import { wiresOf } from '../../text/wiring';
import { vocabularyOf } from '../../words/vocabulary';
import { newLever } from '../defaults';
import { readBoard } from '../read-board';
import { offersWith } from './offers-with';

const bare = { ...chart, cues: [], touches: [], guides: [] };
const first = newLever('pick', dataset, chart.by, [], 'First');
const second = newLever('pick', dataset, chart.by, [first], 'Second');
const number = newLever('number', dataset, undefined, [first, second], 'Limit');
const own = { ...board, levers: [first, second, number], charts: [bare] };
const words = vocabularyOf(own, dataset, fullEngine);
const offers = (lever: string) => offersWith({ chart: bare, board: own, dataset, words }, lever);

describe('what can be said with a lever that is there', () => {
  it.each([first.id, second.id, number.id])('takes just %s, and makes no other', (lever) => {
    const found = offers(lever);
    expect(found.length).toBeGreaterThan(0);
    for (const offer of found) {
      const draft = structuredClone(own);
      offer.accept(draft);
      expect(readBoard(draft)).toMatchObject({ ok: true });
      expect(draft.levers.map(({ id }) => id)).toEqual(own.levers.map(({ id }) => id));
      expect(leverUses(draft.charts[0]!).map((use) => use.lever)).toContain(lever);
    }
  });
  it('is said in the wiring afterwards, with the sentence that says so', () => {
    const draft = structuredClone(own);
    offers(second.id)
      .find(({ id }) => id === 'light')!
      .accept(draft);
    expect(wiresOf(draft, chart.id, second.id, words)).toEqual([
      expect.objectContaining({ how: 'lights', text: 'lights', part: ['cues', 0] }),
      expect.objectContaining({ how: 'fed', text: 'sets the lever', part: ['touches', 0] }),
    ]);
    expect(wiresOf(draft, chart.id, second.id, words)[0]!.sentence).toContain('Second');
    expect(wiresOf(draft, chart.id, first.id, words)).toEqual([]);
  });
});
