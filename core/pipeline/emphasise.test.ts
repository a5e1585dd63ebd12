import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Cue } from '../board/cue';
import type { ConditionContext } from '../conditions/condition-kind';
import { plainReadings } from '../data/readings';
import type { KeyValue } from '../data/values';
import { memberCue } from '../edit/defaults';
import { quays, years } from '../testing/fixtures';
import { emphasise, markStates } from './emphasise';

const context = (category: KeyValue[], picked: KeyValue[]): ConditionContext => ({
  engine: fullEngine,
  readings: plainReadings(category, new Float64Array(category.length)),
  by: { field: 'quay' },
  lever: (id) => [quays, years].find((lever) => lever.id === id),
  positionOf: (id) => ({ quays: picked, years: [] })[id],
  today: '2024-12-31',
});
const cue = (changes: Partial<Cue> = {}): Cue => ({ ...memberCue('quays', []), ...changes });
const states = (cues: Cue[], category: KeyValue[], picked: KeyValue[]) =>
  [...emphasise(cues, context(category, picked)).state].map((state) => markStates[state]);

describe('a pick that lights', () => {
  it('lights what is picked and mutes the rest', () => {
    expect(states([cue()], ['Quel', 'Harl', null, 'Ostrin'], ['Harl', 'Ostrin'])).toEqual([
      'muted',
      'lit',
      'muted',
      'lit',
    ]);
  });
  it('leaves all plain, or all muted, with nothing picked', () => {
    expect(states([cue()], ['Quel', 'Harl'], [])).toEqual(['plain', 'plain']);
    expect(states([cue({ resting: 'muted' })], ['Quel', 'Harl'], [])).toEqual(['muted', 'muted']);
  });
  it('mutes all when what is picked is not in view', () => {
    expect(states([cue()], ['Quel', 'Harl'], ['Tarsk'])).toEqual(['muted', 'muted']);
  });
  it('goes by the value, not by its text', () => {
    expect(states([cue()], [1, '1', true], ['1'])).toEqual(['muted', 'lit', 'muted']);
  });
  it('is at rest when its lever picks something else, when it filters, or when it is off', () => {
    expect(states([memberCue('years', [])], ['Quel'], ['Quel'])).toEqual(['plain']);
    expect(states([cue({ effect: 'filter' })], ['Quel'], ['Quel'])).toEqual(['plain']);
    expect(states([cue({ off: true })], ['Quel', 'Harl'], ['Quel'])).toEqual(['plain', 'plain']);
  });
  it('has nothing to light without readings', () => {
    expect(emphasise([cue()], context([], ['Quel']))).toMatchObject({ litCount: 0, active: true });
  });

  it('agrees with membership for any picks', () => {
    const value = fc.oneof(
      fc.constantFrom('a', 'b', 'c', '1', ''),
      fc.integer({ min: 0, max: 3 }),
      fc.boolean(),
      fc.constant(null),
    );
    fc.assert(
      fc.property(fc.array(value), fc.array(value.filter((v) => v !== null)), (category, picked) => {
        const expected = category.map((v) =>
          picked.length === 0 ? 'plain' : v !== null && picked.some((p) => p === v) ? 'lit' : 'muted',
        );
        expect(states([cue()], category, picked)).toEqual(expected);
      }),
    );
  });
});

describe('several cues', () => {
  const first = cue({ id: 'first', look: { colour: 'kelp' } });
  const second = cue({ id: 'second', look: { colour: 'tide', outline: true, hatch: true } });
  it('give each property of the look to the first that sets it', () => {
    const { look, looks } = emphasise([first, second], context(['Quel', 'Harl'], ['Harl']));
    expect([...look].map((index) => looks[index])).toEqual([
      undefined,
      { colour: 'kelp', outline: true, hatch: true },
    ]);
  });
  it('share one merged look among marks lit alike', () => {
    const { looks } = emphasise([first, second], context(['a', 'b', 'c'], ['a', 'b', 'c']));
    expect(looks).toHaveLength(2);
  });
  it('mute what none of them lights, though another one rests plain', () => {
    expect(states([memberCue('years', []), cue()], ['Quel', 'Harl'], ['Harl'])).toEqual(['muted', 'lit']);
  });
});
