import type { Scene } from '../forms/scene';
import { shapeKinds } from '../pipeline/shapes/registry';
import { counted } from '../words/plural';

/** Says that some of the readings lie where the axis does not reach; empty when all are on it. */
export function beyondText({ beyond, marks, values }: Scene, all: number): string {
  if (!beyond) return '';
  const some =
    beyond === all ? 'All values lie' : `${counted(beyond, 'value')} ${beyond === 1 ? 'lies' : 'lie'}`;
  const { beyond: why } = shapeKinds.get(marks.shape);
  if (why) return `${some} ${why}.`;
  return values.scale === 'log' && values.domain[0] > 0
    ? `${some} beyond the axis, which has no zero.`
    : `${some} beyond the axis.`;
}
