import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import { enabledChart } from '../board/enabled';
import { isOff, switchPart } from '../board/switch-off';
import { leverUses } from '../pipeline/lever-uses';
import { board, chart, dataset } from '../testing/fixtures';
import { chartSentences } from '../text/chart-sentences';
import { vocabularyOf } from '../words/vocabulary';
import { memberCue } from './defaults';
import { readBoard } from './read-board';
import { sayOn } from './say-on';

const full: Chart = {
  ...chart,
  cues: [memberCue('quays', [])],
  guides: [{ kind: 'line', id: 'limit', at: 12, style: 'dashed' }],
  touches: [{ gesture: 'click', lever: 'quays' }],
  axis: { from: 5 },
  labels: 'lit',
  measure: { ...chart.measure, format: { as: 'percent' } },
};
const sentences = (of: Chart) => chartSentences(of, board, vocabularyOf(board, dataset, fullEngine));

describe('what is switched off', () => {
  it('keeps its sentence, and is not there for all that draws the chart', () => {
    const of = structuredClone(full);
    for (const part of [
      ['cues', 0],
      ['guides', 0],
      ['touches', 0],
      ['axis'],
      ['labels'],
      ['measure', 'format'],
    ])
      switchPart(of, { part }, true);
    expect(readBoard({ ...board, charts: [of] }).ok).toBe(true);
    expect(sentences(of).map(({ id }) => id)).toEqual(sentences(full).map(({ id }) => id));
    expect(
      sentences(of)
        .filter(({ off }) => off)
        .map(({ part }) => part!.join(' ')),
    ).toEqual(['measure format', 'axis', 'cues 0', 'labels', 'guides 0', 'touches 0']);
    const enabled = enabledChart(of);
    expect(enabled.guides).toEqual([]);
    expect(enabled.touches).toEqual([]);
    expect(enabled).not.toHaveProperty('axis');
    expect(enabled).not.toHaveProperty('labels');
    expect(enabled.measure).toEqual(chart.measure);
    // The place of a cue among others is meaning: it stays, and says itself that it is off.
    expect(enabled.cues).toHaveLength(1);
    expect(leverUses(of).every(({ off }) => off)).toBe(true);
  });
  it('is on again as it was', () => {
    const of = structuredClone(full);
    for (const part of [['guides', 0], ['axis'], ['cues', 0]]) {
      switchPart(of, { part }, true);
      expect(isOff(of, { part })).toBe(true);
      switchPart(of, { part }, false);
    }
    expect(of).toEqual(full);
    expect(enabledChart(full)).toBe(full);
    expect(enabledChart(enabledChart(full))).toBe(full);
  });
});

describe('a sentence said on another chart', () => {
  const other = (): Chart => structuredClone({ ...chart, id: 'other', cues: [], guides: [], touches: [] });
  it('comes beside what is there', () => {
    const draft = other();
    for (const part of [
      ['cues', 0],
      ['guides', 0],
      ['touches', 0],
      ['axis'],
      ['labels'],
      ['measure', 'format'],
    ])
      sayOn(draft, full, { part });
    expect(draft).toEqual({ ...full, id: 'other' });
  });
  it('takes the place of what says the same in another look, and keeps its name', () => {
    const draft = other();
    draft.cues = [
      { ...memberCue('quays', []), id: 'mine', look: { colour: 'tide' } },
      { ...memberCue('quays', ['mine']), effect: 'filter' },
    ];
    sayOn(draft, full, { part: ['cues', 0] });
    expect(draft.cues.map(({ id, effect, look }) => [id, effect, look])).toEqual([
      ['mine', 'light', full.cues[0]!.look],
      [draft.cues[1]!.id, 'filter', draft.cues[1]!.look],
    ]);
  });
  it('is on where it was off', () => {
    const draft = { ...other(), off: ['axis', 'legend'] as Chart['off'] & string[] };
    sayOn(draft, full, { part: ['axis'] });
    expect(draft.off).toEqual(['legend']);
  });
});
