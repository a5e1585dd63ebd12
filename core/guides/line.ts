import { IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import { type Figure, figureLevers, IsFigure, isLeverFigure } from '../board/figure';
import { IsId } from '../board/id';
import { figureNow, isShareFigure, shareOfRange } from '../conditions/figures';
import { alongValues } from '../forms/value-axis';
import { figureWord } from '../words/figure-word';
import { numberText } from '../words/number-text';
import { optionWord } from '../words/sentence';
import type { GuideKind } from './guide-kind';

export const lineStyles = ['solid', 'dashed', 'dotted'] as const;

/** A line across the plot at a figure: written, or a lever's, by which it can then be dragged. */
export class LineGuide {
  @IsIn(['line'])
  kind!: 'line';

  @IsId()
  id!: string;

  @IsFigure()
  at!: Figure;

  @IsIn(lineStyles)
  style!: (typeof lineStyles)[number];

  @IsOptional()
  @IsString()
  @MaxLength(80)
  name?: string;

  /** A switch while which is on the line is drawn. */
  @IsOptional()
  @IsId()
  when?: string;
}

export const line: GuideKind<LineGuide> = {
  kind: 'line',
  Spec: LineGuide,
  levers: (spec) => figureLevers(spec.at),
  needs: (spec) => figureLevers(spec.at).map((lever) => ({ lever, ability: 'anyFigure' as const })),
  figures(spec, context) {
    const figure = figureNow(spec.at, context);
    return [isShareFigure(spec.at, context.lever) ? shareOfRange(figure, context.readings) : figure];
  },
  place(spec, [at = Number.NaN], axis) {
    if (Number.isNaN(at)) return { lines: [], texts: [], handles: [] };
    const { line: across, labelX, labelY, anchor } = alongValues(axis, at);
    const text = spec.name ? `${spec.name} ${numberText(at)}` : numberText(at);
    return {
      lines: [{ ...across, role: 'guide', style: spec.style }],
      texts: [{ x: labelX, y: labelY, text, anchor, role: 'guide' }],
      handles: isLeverFigure(spec.at)
        ? [{ lever: spec.at.lever, part: spec.at.part ?? 'value', line: across, at }]
        : [],
    };
  },
  parts: (spec, words) => [
    'Draws a ',
    optionWord(
      'Line',
      ['style'],
      spec.style,
      lineStyles.map((value) => ({ value, text: value })),
    ),
    ' line at ',
    figureWord('Figure', ['at'], spec.at, words, 'anyFigure'),
    ', named ',
    { slot: 'text', label: 'Name', path: ['name'], text: spec.name || 'nothing', value: spec.name ?? '' },
    '.',
  ],
  without(spec, lever, context) {
    if (!figureLevers(spec.at).includes(lever)) return spec;
    const now = figureNow(spec.at, context);
    return { ...spec, at: Number.isNaN(now) || isShareFigure(spec.at, context.lever) ? 0 : now };
  },
};
