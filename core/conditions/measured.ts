import { type Measure, measureKey } from '../board/measure';
import type { Readings } from '../data/readings';

const nothing = new Float64Array(0);

/** The figures that a condition compares: the chart's own, or those of another measure. */
export const measuredBy = (measure: Measure | undefined, readings: Readings): { value: Float64Array } =>
  measure ? { value: readings.others.get(measureKey(measure)) ?? nothing } : readings;
