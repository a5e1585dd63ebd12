import type { Cue } from '../board/cue';
import type { ConditionContext } from '../conditions/condition-kind';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import { type KeptCategories, restCategory } from '../data/kept-categories';
import type { Readings } from '../data/readings';
import { floats } from '../data/typed-lists';

/**
 * The categories that meet every keeping cue which is not at rest; null where none keeps anything. They are judged by the
 * figures of whole categories, also where the chart parts those into series.
 */
export function keptCategories(
  cues: readonly Cue[],
  categories: Readings,
  context: Omit<ConditionContext, 'readings' | 'split'>,
): KeptCategories | null {
  const judging = { ...context, readings: categories };
  const said = cues
    .filter(({ condition }) => conditionKinds.get(condition.kind).keepsCategories)
    .map((cue) => ({ cue, ...conditionKinds.get(cue.condition.kind).evaluate(cue.condition, judging) }))
    .filter(({ active }) => active);
  if (!said.length) return null;
  const values = new Set(
    categories.category.filter((_, i) => said.every(({ verdict }) => verdict[i] === verdicts.yes)),
  );
  // Dates have no others: what is not kept of them is another time.
  const together = !context.by.grain && said.some(({ cue }) => cue.remainder === 'together');
  return { values, of: categories.length, ...(together ? { together } : {}) };
}

const withoutRest = (values: Float64Array, { category }: Readings): Float64Array =>
  floats(values.length, (i) => (category[i] === restCategory ? Number.NaN : values[i]!));

/** What conditions and guides judge: all others together are none of the categories that are compared. */
export const judgedReadings = (readings: Readings): Readings =>
  readings.kept?.together
    ? {
        ...readings,
        value: withoutRest(readings.value, readings),
        others: new Map([...readings.others].map(([key, values]) => [key, withoutRest(values, readings)])),
      }
    : readings;
