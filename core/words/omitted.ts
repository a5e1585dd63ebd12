import type { Readings } from '../cube/readings';
import { mostLines } from '../forms/line';
import type { Scene } from '../forms/scene';

const number = (n: number) => n.toLocaleString('en');

/** What a chart does not draw because there is too much of it, and what to do; empty when all is drawn. */
export function omittedText({ omitted, band, marks }: Scene, { series }: Readings): string {
  if (!omitted) return '';
  if (marks.shape === 'points')
    return `The first ${number(mostLines)} lines are drawn, ${number(series.length - mostLines)} more are not.`;
  if (!band.count)
    return `${number(series.length)} series cannot stand side by side: keep only some, or part the chart by something else.`;
  return `The first ${number(band.count)} are drawn, ${number(omitted)} more are not.`;
}
