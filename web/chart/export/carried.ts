import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Chart } from '@sorvik/core/board/chart';
import type { ChartResult } from '@sorvik/core/pipeline/stage';

/** A chart as it is taken along. */
export interface Carried {
  output: ChartResult;
  /** The drawing on the page: fonts and colours are its. */
  svg: SVGSVGElement;
  title: string;
  chart: Chart;
  dataset: DatasetView | undefined;
}

/** The formats that its data is taken along in. */
export const dataWays = ['csv', 'xlsx', 'json', 'arrow'] as const;
export type DataWay = (typeof dataWays)[number];

export type Way = 'copy' | 'png' | 'svg' | DataWay;

export const isDataWay = (way: Way): way is DataWay => (dataWays as readonly Way[]).includes(way);
