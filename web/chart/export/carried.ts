import type { ChartResult } from '@sorvik/core/pipeline/stage';

/** A chart as it is taken along. */
export interface Carried {
  output: ChartResult;
  /** The drawing on the page: fonts and colours are its. */
  svg: SVGSVGElement;
  title: string;
  /** Where its picture is found, with levers where they stand. */
  address: string;
}

/** The formats that its data is taken along in. */
export const dataWays = ['csv', 'xlsx', 'json', 'arrow'] as const;
export type DataWay = (typeof dataWays)[number];

export type Way = 'copy' | 'address' | 'png' | 'svg' | DataWay;

export const isDataWay = (way: Way): way is DataWay => (dataWays as readonly Way[]).includes(way);
