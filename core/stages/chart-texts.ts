import type { Category } from '../board/category';
import type { Readings } from '../cube/readings';
import type { DatasetInfo } from '../dataset';
import { keyText } from '../words/key-text';
import { briefNumberText, numberWriter } from '../words/number-text';

/** How the parts of a chart read. */
export interface ChartTexts {
  /** Per place, and per series. */
  labels: string[];
  seriesNames: string[];
  value(index: number): string;
  /** The value in as few letters as will do, for marks that stand close. */
  short(index: number): string;
  /** What a reading stands for: "Mar 2021", "adult, Mar 2021". */
  name(index: number): string;
}

export function chartTexts(
  readings: Readings,
  dataset: DatasetInfo,
  by: Category,
  split: Category | undefined,
): ChartTexts {
  const typeOf = (key: string) => dataset.fields.find((field) => field.key === key)?.type;
  const type = typeOf(by.field);
  const labels = readings.places.map((value) => keyText(value, type, by.grain));
  const seriesNames = readings.series.map((value) =>
    keyText(value, split && typeOf(split.field), split?.grain),
  );
  const write = numberWriter(readings.value);
  return {
    labels,
    seriesNames,
    value: (index) => write(readings.value[index]!),
    short: (index) => briefNumberText(readings.value[index]!),
    name(index) {
      const label = labels[readings.place[index]!]!;
      return split ? `${seriesNames[readings.seriesOf[index]!]}, ${label}` : label;
    },
  };
}
