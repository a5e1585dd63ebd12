import type { ConditionContext } from '@sorvik/core/conditions/condition-kind';
import type { Condition } from '@sorvik/core/conditions/registry';
import { plainReadings } from '@sorvik/core/data/readings';
import { newCue } from '@sorvik/core/edit/defaults';
import { emphasise } from '@sorvik/core/pipeline/emphasise';
import { median, rounded } from './statistics';

const rounds = 200;

const conditions: Condition[] = [
  { kind: 'rank', count: 100, side: 'highest', ties: 'share' },
  { kind: 'threshold', is: 'at or above', limit: 700 },
  { kind: 'position', is: 'below', limit: 0.1 },
  {
    kind: 'all',
    of: [
      { kind: 'rank', count: 2000, side: 'lowest', ties: 'share' },
      { kind: 'threshold', is: 'above', limit: 100 },
    ],
  },
  { kind: 'not', of: { kind: 'threshold', is: 'between', limit: 200, upper: 600 } },
];

/** Five cues over so many readings, beside a bare loop that compares the same figures as often. */
export function cuesBench(readings: number) {
  const value = Float64Array.from({ length: readings }, (_, i) => ((i * 7919) % 1009) + (i % 7) / 8);
  const context: ConditionContext = {
    readings: plainReadings(
      Array.from(value, (_, i) => `mark ${i}`),
      value,
    ),
    by: { field: 'mark' },
    lever: () => undefined,
    positionOf: () => undefined,
    today: '2024-12-31',
    engine: null,
  };
  const cues = conditions.map((condition) => newCue('cue', condition, []));
  const state = new Uint8Array(readings);
  const bare = () => {
    for (let cue = 0; cue < conditions.length; cue++)
      for (let i = 0; i < readings; i++) if (value[i]! >= 100 * cue) state[i] = 2;
  };
  const took = (work: () => void) => {
    const started = performance.now();
    work();
    return performance.now() - started;
  };
  const ours: number[] = [];
  const floor: number[] = [];
  for (let round = 0; round < rounds; round++) {
    ours.push(took(() => emphasise(cues, context)));
    floor.push(took(bare));
  }
  const medianMs = median(ours.slice(rounds / 4));
  const bareMs = median(floor.slice(rounds / 4));
  return {
    readings,
    cues: cues.length,
    medianMs: rounded(medianMs, 3),
    bareMs: rounded(bareMs, 3),
    ratio: rounded(medianMs / bareMs, 1),
  };
}
