import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Kind } from '../data/kinds';
import { newCue } from '../edit/defaults';
import { readBoard } from '../edit/read-board';
import { formKinds } from '../forms/registry';
import type { RectMarks } from '../forms/scene';
import { guideKinds } from '../guides/registry';
import { positionsFromQuery, positionsToQuery } from '../levers/positions';
import { leverKinds } from '../levers/registry';
import { settledPosition } from '../levers/settled-positions';
import { chartSentences } from '../text/chart-sentences';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { corner } from './corner-guide';
import { every } from './every-condition';
import { board, chart, dataset } from './fixtures';
import { inWords } from './in-words';
import { needles } from './needles-form';
import { runChart } from './run-chart';
import { stars } from './stars-lever';
import { withKind } from './with-kind';

/** A part of an example's kind, which the types of the registries do not know. */
const part = <T>(spec: object) => spec as T;
const boardWith = (changes: object, levers: object[] = []): Board =>
  JSON.parse(
    JSON.stringify({
      ...board,
      levers,
      charts: [{ ...chart, cues: [], touches: [], guides: [], ...changes }],
    }),
  );
const problemsOf = (document: unknown) => {
  const reading = readBoard(document);
  return reading.ok ? [] : reading.problems.map(({ pointer }) => pointer);
};
const sentencesOf = (on: Board) =>
  chartSentences(on.charts[0]!, on, vocabularyOf(on, dataset, fullEngine)).map(sentenceText);

describe('the worked example of a condition', () => {
  it('is read, judges, and is said', () =>
    withKind(conditionKinds, every as Kind as never, () => {
      const cue = newCue('every', part({ kind: 'every', nth: 2 }), []);
      const on = boardWith({ cues: [cue] });
      expect(problemsOf(on)).toEqual([]);
      expect(problemsOf(boardWith({ cues: [{ ...cue, condition: { kind: 'every', nth: 'x' } }] }))).toEqual([
        '/charts/0/cues/0/condition/nth',
      ]);
      const { no, yes } = verdicts;
      const { emphasis } = runChart(on.charts[0]!, {}, { board: on });
      expect([...emphasis.evaluations[0]!.evaluation.verdict]).toEqual([no, yes, no, yes]);
      expect(sentencesOf(on)).toContain(
        'Lights bars that are every one of 2, in orange, outlined; while it counts by nothing, all plain.',
      );
    }));
});

describe('the worked example of a lever', () => {
  it('is read, moved, kept in the address, and gives its figure to a cue', () =>
    withKind(leverKinds, stars as Kind as never, () => {
      const lever = stars.make({ id: 'rating', name: 'Rating', dataset });
      const rank = { kind: 'rank', count: { lever: 'rating' }, side: 'highest', ties: 'first' };
      const on = boardWith({ cues: [newCue('top', part(rank), [])] }, [lever]);
      expect(problemsOf(on)).toEqual([]);
      expect(problemsOf({ ...on, levers: [{ ...lever, most: 99 }] })).toEqual(['/levers/0/most']);
      const { levers } = on;
      const query = positionsToQuery(levers, { rating: 2 }, {});
      expect(positionsFromQuery(levers, query).positions).toEqual({ rating: 2 });
      expect(inWords(settledPosition(levers[0]!, { rating: 9 }, {}))).toEqual({
        position: 5,
        notice: 'There are 1 to 5 stars: 5 stars instead.',
      });
      const lit = (rating: number) => runChart(on.charts[0]!, { rating }, { board: on }).emphasis.litCount;
      expect([lit(1), lit(2), lit(4)]).toEqual([1, 2, 4]);
    }));
});

describe('the worked example of a guide', () => {
  it('is read, drawn on lying and standing marks, and said', () =>
    withKind(guideKinds, corner as Kind as never, () => {
      const guide = { kind: 'corner', id: 'c', text: 'without ferries of others', side: 'right' };
      for (const form of ['bars', 'columns']) {
        const on = boardWith({ form, guides: [guide] });
        expect(problemsOf(on)).toEqual([]);
        const { guides, scene } = runChart(on.charts[0]!, {}, { board: on });
        const [text] = guides.texts;
        expect(text).toMatchObject({ text: 'without ferries of others', anchor: 'end' });
        expect(text!.x).toBeLessThanOrEqual(scene.width);
        expect(sentencesOf(on)).toContain('Writes without ferries of others in the corner at the right.');
      }
      expect(problemsOf(boardWith({ guides: [{ ...guide, side: 'top' }] }))).toEqual([
        '/charts/0/guides/0/side',
      ]);
    }));
});

describe('the worked example of a form', () => {
  it('draws each reading to scale, and is lit as any other', () =>
    withKind(formKinds, needles, () => {
      const cue = newCue('top', part({ kind: 'rank', count: 1, side: 'highest', ties: 'first' }), []);
      const on = boardWith({ form: 'needles', cues: [cue] });
      expect(problemsOf(on)).toEqual([]);
      const { scene, emphasis, readings } = runChart(on.charts[0]!, {}, { board: on });
      const { height, width } = scene.marks as RectMarks;
      const perBoat = height[0]! / readings.value[0]!;
      for (const [i, value] of readings.value.entries()) expect(height[i]).toBeCloseTo(value * perBoat, 9);
      expect(new Set(width)).toEqual(new Set([2]));
      expect(emphasis.litCount).toBe(1);
      expect(sentencesOf(on)).toContain(
        'Lights needles ranked 1 from the highest, ties cut off at the count, in orange, outlined.',
      );
    }));
});
