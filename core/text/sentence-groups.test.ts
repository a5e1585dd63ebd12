import { expect, it } from 'vitest';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import { newCue } from '../edit/defaults';
import { board, chart, dataset } from '../testing/fixtures';
import { vocabularyOf } from '../words/vocabulary';
import { chartSentences } from './chart-sentences';
import { sentenceGroups } from './sentence-groups';

const grouped = (changes: Partial<Chart>) => {
  const own: Chart = { ...chart, cues: [], guides: [], touches: [], ...changes };
  const on: Board = { ...board, charts: [own] };
  const sentences = chartSentences(own, on, vocabularyOf(on, dataset, null));
  return { sentences, groups: sentenceGroups(sentences) };
};

it('leaves few sentences in one list', () => {
  expect(grouped({}).groups).toBeNull();
});

it('puts many under what they are about, each once and in their order', () => {
  const { sentences, groups } = grouped({
    cues: [newCue('top', { kind: 'rank', count: 1, side: 'highest', ties: 'share' }, [])],
    guides: [{ kind: 'line', id: 'limit', at: 20, style: 'dashed', name: '', beyond: 'extend' }] as never,
    touches: [{ gesture: 'click', lever: 'quays' }],
    measure: { ...chart.measure, format: { as: 'number' }, share: 'everything' } as never,
    axis: { from: 'data' },
    subtitle: '{lit} of {all}',
    legend: 'right',
    figures: 'inside',
    labels: 'lit',
  });
  expect(groups!.map(({ id }) => id)).toEqual(['shown', 'lit', 'drawn', 'written', 'answered']);
  const ids = groups!.flatMap((group) => group.sentences.map(({ id }) => id));
  expect([...ids].sort()).toEqual(sentences.map(({ id }) => id).sort());
  const of = (group: string) =>
    groups!.find(({ id }) => id === group)!.sentences.map(({ part }) => part?.join('.'));
  expect(of('shown')).toEqual([undefined, 'measure.share', 'axis']);
  expect(of('written')).toEqual(
    expect.arrayContaining(['measure.format', 'subtitle', 'legend', 'figures', 'labels']),
  );
});
