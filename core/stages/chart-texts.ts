import type { Category } from '../board/category';
import type { Measure } from '../board/measure';
import type { Readings } from '../cube/readings';
import type { DatasetInfo } from '../dataset';
import { sameCut } from '../grain';
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
  measure: Measure,
): ChartTexts {
  const typeOf = (key: string) => dataset.fields.find((field) => field.key === key)?.type;
  const type = typeOf(by.field);
  const labels = readings.places.map((value) => keyText(value, type, by.grain));
  const seriesNames = readings.series.map((value) =>
    keyText(value, split && typeOf(split.field), split?.grain),
  );
  const figures = figureWriter(measure.format);
  const write = figures.beside(readings.value);
  return {
    labels,
    seriesNames,
    figures,
    value: (index) => write(readings.value[index]!),
    short: (index) => figures.brief(readings.value[index]!),
    name(index) {
      const label = labels[readings.place[index]!]!;
      return split && !sameCut(split, by) ? `${seriesNames[readings.seriesOf[index]!]}, ${label}` : label;
    },
  };
}
