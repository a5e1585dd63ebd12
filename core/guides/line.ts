import { IsIn, IsNumber, IsOptional, IsString, MaxLength } from 'class-validator';
import { IsId } from '../board/id';
import { alongValues } from '../forms/value-axis';
import { numberText } from '../words/number-text';
import type { GuideKind } from './guide-kind';

export const lineStyles = ['solid', 'dashed', 'dotted'] as const;

/** A line across the plot at a figure. */
export class LineGuide {
  @IsIn(['line'])
  kind!: 'line';

  @IsId()
  id!: string;

  @IsNumber({ allowNaN: false, allowInfinity: false })
  at!: number;

  @IsIn(lineStyles)
  style!: (typeof lineStyles)[number];

  @IsOptional()
  @IsString()
  @MaxLength(80)
  name?: string;
}

export const line: GuideKind<LineGuide> = {
  kind: 'line',
  Spec: LineGuide,
  figures: (spec) => [spec.at],
  place(spec, axis) {
    const { line: across, labelX, labelY, anchor } = alongValues(axis, spec.at);
    const text = spec.name ? `${spec.name} ${numberText(spec.at)}` : numberText(spec.at);
    return {
      lines: [{ ...across, role: 'guide', style: spec.style }],
      texts: [{ x: labelX, y: labelY, text, anchor, role: 'guide' }],
    };
  },
  parts: (spec) => [
    'Draws a ',
    { slot: 'line-style', text: spec.style, value: spec.style },
    ' line at ',
    { slot: 'figure', text: numberText(spec.at), value: spec.at },
    ', named ',
    { slot: 'guide-name', text: spec.name || 'nothing', value: spec.name ?? '' },
    '.',
  ],
};
