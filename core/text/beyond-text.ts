import type { Scene } from '../forms/scene';
import type { Locale } from '../messages/locale';
import { say } from '../messages/say';
import { shapeKinds } from '../pipeline/shapes/registry';

/** Says that some of the readings lie where the axis does not reach; empty when all are on it. */
export function beyondText({ beyond, marks, values }: Scene, all: number, locale: Locale): string {
  if (!beyond) return '';
  const where =
    shapeKinds.get(marks.shape).beyond ??
    (values.scale === 'log' && values.domain[0] > 0 ? 'beyond.noZero' : 'beyond.axis');
  return say(locale, 'beyond', {
    all: beyond === all ? 'yes' : 'no',
    n: beyond,
    where: say(locale, where),
  });
}
