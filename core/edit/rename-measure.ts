import type { Chart } from '../board/chart';
import { type Measure, measureKey } from '../board/measure';

const isMeasure = (part: object): part is Measure =>
  'aggregate' in part && typeof (part as Measure).aggregate === 'string';

/** Puts a measure in the place of another one wherever a part of a document names it. */
function renamedIn(part: unknown, key: string, after: Measure): unknown {
  if (typeof part !== 'object' || part === null) return part;
  if (isMeasure(part)) return measureKey(part) === key ? { ...after } : part;
  if (Array.isArray(part)) return part.map((each) => renamedIn(each, key, after));
  return Object.fromEntries(Object.entries(part).map(([name, each]) => [name, renamedIn(each, key, after)]));
}

/** When a measure of a chart becomes another one, the sentences that went by it go by the new one. */
export function renameMeasure(draft: Chart, before: Measure, after: Measure): void {
  draft.cues = renamedIn(draft.cues, measureKey(before), after) as Chart['cues'];
}
