import { IsIn } from 'class-validator';
import { IsOptional, Own } from './validation';

export const scales = ['even', 'log'] as const;
export type ScaleName = (typeof scales)[number];

export const grids = ['lines', 'none'] as const;

const isEnd = (value: unknown) => value === 'data' || (typeof value === 'number' && Number.isFinite(value));
const IsAxisEnd = () =>
  Own({
    name: 'isAxisEnd',
    validate: isEnd,
    message: 'check.axisEnd',
    schema: { anyOf: [{ type: 'number' }, { const: 'data' }] },
  });

/** Where the value axis of a chart begins and ends, and how it is scaled. */
export class Axis {
  /** Even where it is left out; `log` for figures that differ by orders of magnitude. */
  @IsOptional()
  @IsIn(scales)
  scale?: ScaleName;

  /** A figure, or the lowest of the readings; zero, or the lowest below it, where it is left out. */
  @IsOptional()
  @IsAxisEnd()
  from?: number | 'data';

  /** A figure; the highest of the readings where it is left out. */
  @IsOptional()
  @IsAxisEnd()
  to?: number | 'data';

  /** Lines across the plot at the figures of the axis; drawn where it is left out. */
  @IsOptional()
  @IsIn(grids)
  grid?: (typeof grids)[number];
}
