import type { Category } from '../board/category';
import { formatOf, type Measure } from '../board/measure';
import type { DatasetInfo } from '../data/dataset';
import { sameDimension } from '../data/dimension';
import { restCategory } from '../data/kept-categories';
import type { Readings } from '../data/readings';
import type { Locale } from '../messages/locale';
import { type FigureWriter, figureWriter } from '../words/figure-writer';
import { keyText } from '../words/key-text';

/** How the parts of a chart read. */
export interface ChartTexts {
  /** Per place, and per series. */
  labels: string[];
  seriesNames: string[];
  /** How the figures of the measure read. */
  figures: FigureWriter;
  value(index: number): string;
  /** The same with all its decimals. */
  exact(index: number): string;
  /** The value in as few letters as will do, for marks that stand close. */
  short(index: number): string;
  /** What a reading stands for: "Mar 2021", "adult, Mar 2021". */
  name(index: number): string;
}

export function chartTexts({
  readings,
  dataset,
  by,
  split,
  measures,
  measureNames,
  locale,
}: {
  readings: Readings;
  dataset: DatasetInfo;
  by: Category;
  split: Category | undefined;
  measures: readonly Measure[];
  measureNames: readonly string[];
  locale: Locale;
}): ChartTexts {
  const typeOf = (key: string) => dataset.fields.find((field) => field.key === key)?.type;
  const type = typeOf(by.field);
  const { kept } = readings;
  const labels = readings.places.map((value) =>
    kept && value === restCategory
      ? `${keyText(value, locale, type)} (${locale.count(kept.rest)})`
      : keyText(value, locale, type, by.grain),
  );
  const several = readings.judged !== undefined;
  const seriesNames = readings.series.map((value, s) =>
    several ? measureNames[s]! : keyText(value, locale, split && typeOf(split.field), split?.grain),
  );
  // Each measure is written its own way.
  const writers = measures.map((measure, m) => {
    const { full, exact, brief, beside } = figureWriter(formatOf(measure), locale);
    const own = several
      ? readings.value.subarray(readings.starts[m], readings.starts[m + 1])
      : readings.value;
    let write: ((value: number) => string) | undefined;
    return {
      full,
      exact,
      brief,
      // All figures are looked at for their decimals: not with every step of a window along many points.
      write(value: number) {
        write ??= beside(own);
        return write(value);
      },
    };
  });
  const writer = (index: number) => writers[several ? readings.seriesOf[index]! : 0]!;
  return {
    labels,
    seriesNames,
    figures: figureWriter(formatOf(measures[0]!), locale),
    value: (index) => writer(index).write(readings.value[index]!),
    exact: (index) => writer(index).exact(readings.value[index]!),
    short: (index) => writer(index).brief(readings.value[index]!),
    name(index) {
      const label = labels[readings.place[index]!]!;
      return several || (split && !sameDimension(split, by))
        ? `${seriesNames[readings.seriesOf[index]!]}, ${label}`
        : label;
    },
  };
}
