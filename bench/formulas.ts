import { markRows, markScope } from '@sorvik/core/conditions/mark-scope';
import { plainReadings } from '@sorvik/core/data/readings';
import { fullEngine } from '@sorvik/formula/full-engine';
import { median, rounded } from './statistics';

const readings = 10_000;
const rounds = 60;
const text = 'RANK() OVER (ORDER BY value DESC) <= 100 OR value > 2 * AVG(value) OVER ()';

/** A formula that looks through two windows, beside the same written by hand: a sort, a sum and a loop. */
export function formulasBench() {
  const value = Float64Array.from({ length: readings }, (_, i) => ((i * 7919) % 1009) + (i % 7) / 8);
  const marks = plainReadings(
    Array.from(value, (_, i) => `mark ${i}`),
    value,
  );
  const names = {
    engine: fullEngine,
    by: { field: 'mark' },
    lever: () => undefined,
    typeOf: () => 'text' as const,
  };
  const parsed = fullEngine.parse(text);
  if (!parsed.ok) throw new Error(parsed.problem.message);
  const compiled = fullEngine.compile(parsed.expression, markScope(names));
  const state = new Uint8Array(readings);
  const ours = () => {
    const holds = compiled.run(markRows(marks, names, () => undefined, '2024-01-01'));
    for (let i = 0; i < readings; i++) state[i] = holds(i) === true ? 2 : 0;
  };
  const other = new Uint8Array(readings);
  const byHand = () => {
    const order = Array.from(value.keys()).sort((a, b) => value[b]! - value[a]!);
    let rank = 1;
    const ranks = new Int32Array(readings);
    order.forEach((index, at) => {
      if (at > 0 && value[index] !== value[order[at - 1]!]) rank = at + 1;
      ranks[index] = rank;
    });
    let sum = 0;
    for (let i = 0; i < readings; i++) sum += value[i]!;
    const most = (2 * sum) / readings;
    for (let i = 0; i < readings; i++) other[i] = ranks[i]! <= 100 || value[i]! > most ? 2 : 0;
  };
  const took = (work: () => void) => {
    const started = performance.now();
    work();
    return performance.now() - started;
  };
  const times = { ours: [] as number[], byHand: [] as number[] };
  for (let round = 0; round < rounds; round++) {
    times.ours.push(took(ours));
    times.byHand.push(took(byHand));
  }
  if (state.some((each, i) => each !== other[i])) throw new Error('the formula and the loop differ');
  const medianMs = median(times.ours.slice(rounds / 4));
  const byHandMs = median(times.byHand.slice(rounds / 4));
  return {
    readings,
    medianMs: rounded(medianMs, 2),
    byHandMs: rounded(byHandMs, 2),
    ratio: rounded(medianMs / byHandMs, 1),
  };
}
