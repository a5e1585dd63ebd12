import type { Chart } from '../board/chart';
import { formatOf } from '../board/measure';
import type { ClaimWords } from '../conditions/condition-kind';
import { figuresApart, figureWriter } from '../words/figure-writer';
import { keyText } from '../words/key-text';
import { measureText } from '../words/measure-text';
import type { Vocabulary } from '../words/vocabulary';

/** How things read in what is said of a chart's marks: each figure in the format of the measure that it is of. */
export const claimWords = ({ by, split }: Pick<Chart, 'by' | 'split'>, words: Vocabulary): ClaimWords => ({
  locale: words.locale,
  measure: (measure) => measureText(measure, words),
  figures: (measure, values) => figuresApart(figureWriter(formatOf(measure), words.locale), values),
  key: (key, of) => {
    const dimension = typeof of === 'object' ? of : of === 'series' && split ? split : by;
    return keyText(key, words.locale, words.field(dimension.field)?.type, dimension.grain);
  },
  lever: (id) => words.lever(id)?.name ?? id,
});
