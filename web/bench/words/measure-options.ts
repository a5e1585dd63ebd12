import type { DatasetView } from '@sorvik/core/board/api-types';
import { aggregates, type Measure, measureKey } from '@sorvik/core/board/measure';
import { isNumeric } from '@sorvik/core/data/values';
import { measureText } from '@sorvik/core/words/measure-text';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';

/** Every measure of a dataset, by name. */
export function measureOptions(
  dataset: DatasetView,
  words: Vocabulary,
): { value: string; text: string; measure: Measure }[] {
  const measures: Measure[] = [
    ...dataset.fields
      .filter(({ type }) => isNumeric(type))
      .flatMap(({ key }) =>
        aggregates
          .filter((aggregate) => aggregate !== 'count')
          .map((aggregate) => ({ aggregate, field: key })),
      ),
    { aggregate: 'count' },
  ];
  return measures.map((measure) => ({
    value: measureKey(measure),
    text: measureText(measure, words),
    measure,
  }));
}
