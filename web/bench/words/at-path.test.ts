import { board, chart, dataset } from '@sorvik/core/testing/fixtures';
import { chartSentences } from '@sorvik/core/text/chart-sentences';
import type { Word } from '@sorvik/core/words/sentence';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { fullEngine } from '@sorvik/formula/full-engine';
import { expect, it } from 'vitest';
import { partOf, pathOf, removeSentence, setWord } from './at-path';

const full = {
  ...chart,
  window: { lever: 'quays', axis: 'fixed' as const },
  guides: [{ kind: 'line' as const, id: 'l', at: 5, style: 'dashed' as const, outside: 'axis' as const }],
};
const sentences = chartSentences(full, board, vocabularyOf(board, dataset, fullEngine));
const sentence = (id: string) => sentences.find((each) => each.id === id)!;
const word = (id: string, slot: string, label?: string) =>
  sentence(id).parts.find(
    (part): part is Word =>
      typeof part !== 'string' && part.slot === slot && (!label || part.label === label),
  )!;

it('a word edits the very place its text comes from', () => {
  const line = word('guide-l', 'option', 'Line');
  expect(pathOf(sentence('guide-l'), line)).toEqual(['guides', 0, 'style']);
  const draft = structuredClone(full);
  setWord(draft, sentence('guide-l'), line, 'dotted');
  setWord(draft, sentence('guide-l'), word('guide-l', 'figure'), { lever: 'x' });
  setWord(draft, sentence('window'), word('window', 'option'), 'following');
  setWord(draft, sentence('cue-light-quays'), word('cue-light-quays', 'lever'), 'years');
  expect(draft.guides[0]).toMatchObject({ style: 'dotted', at: { lever: 'x' } });
  expect(draft.window.axis).toBe('following');
  expect(partOf(draft, sentence('cue-light-quays'))).toMatchObject({
    condition: { kind: 'member', lever: 'years' },
  });
});

it('every word with a place finds something there', () => {
  for (const each of sentences)
    for (const part of each.parts) {
      if (typeof part === 'string' || !part.path || part.slot === 'text') continue;
      const draft = structuredClone(full);
      setWord(draft, each, part, part.value);
      expect(draft).toEqual(full);
    }
});

it('a value that is undefined is taken away', () => {
  const draft = { ...structuredClone(full) };
  draft.cues[0]!.when = 'x';
  setWord(draft, sentence('cue-light-quays'), { slot: 'lever', text: '', path: ['when'] }, undefined);
  expect('when' in draft.cues[0]!).toBe(false);
});

it('each sentence but the first can be taken out', () => {
  const taken = (id: string) => {
    const draft = structuredClone(full) as typeof chart;
    removeSentence(draft, sentence(id));
    return draft;
  };
  expect(taken('guide-l').guides).toEqual([]);
  expect(taken('window').window).toBeUndefined();
  expect(taken('touch-0').touches).toEqual([]);
  expect(taken('cue-light-quays').cues.map((cue) => cue.id)).toEqual(['filter-years']);
  expect(taken('shows')).toEqual(full);
});
