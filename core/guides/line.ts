import { IsIn } from 'class-validator';
import { type Figure, figureLevers, figureNeeds, IsFigure, isLeverFigure } from '../board/figure';
import type { ValueAxis } from '../forms/scene';
import { alongValues } from '../forms/value-axis';
import { figureWord } from '../levers/figure-word';
import { tell } from '../messages/desk';
import { optionWord, sentenceParts } from '../words/sentence';
import { axisFigure, fixedFigure } from './axis-figure';
import { FigureGuide, figureGuideSlots } from './guide-base';
import { type GuideKind, type GuideMarks, nothingDrawn } from './guide-kind';

export const lineStyles = ['solid', 'dashed', 'dotted'] as const;

/** A line across the plot at a figure: written, or a lever's, by which it can then be dragged. */
export class LineGuide extends FigureGuide {
  @IsIn(['line'])
  kind!: 'line';

  @IsFigure()
  at!: Figure;

  @IsIn(lineStyles)
  style!: (typeof lineStyles)[number];
}

/** An arrow at the edge of the plot, with what lies beyond it. */
function beyond(text: string, above: boolean, axis: ValueAxis, sight: number): GuideMarks {
  const upright = axis.direction === 'y';
  const arrow = upright ? (above ? '↑' : '↓') : above ? '→' : '←';
  const at = above ? axis.end : axis.start;
  return {
    ...nothingDrawn,
    texts: [
      upright
        ? {
            x: Math.min(axis.crossEnd, sight) - 4,
            y: at + (above ? 8 : -8),
            text: `${arrow} ${text}`,
            anchor: 'end',
            role: 'guide',
          }
        : {
            x: at,
            y: axis.crossStart - 9,
            text: above ? `${text} ${arrow}` : `${arrow} ${text}`,
            anchor: above ? 'end' : 'start',
            role: 'guide',
          },
    ],
  };
}

export const line: GuideKind<LineGuide> = {
  kind: 'line',
  Spec: LineGuide,
  levers: (spec) => figureLevers(spec.at),
  needs: (spec) => figureNeeds('anyFigure', spec.at),
  figures: (spec, context) => [axisFigure(spec.at, context)],
  axis: (spec) => spec.axis ?? 'same',
  grows: ({ outside }) => outside !== 'arrow',
  place(spec, [at = Number.NaN], { values, figureText, sight }) {
    if (Number.isNaN(at)) return nothingDrawn;
    const text = spec.name ? `${spec.name} ${figureText(at)}` : figureText(at);
    const [low, high] = values.domain;
    if (at < low || at > high) return beyond(text, at > high, values, sight);
    const { line: across, labelX, labelY, anchor } = alongValues(values, at, sight);
    return {
      ...nothingDrawn,
      lines: [{ ...across, role: 'guide', style: spec.style }],
      texts: [{ x: labelX, y: labelY, text, anchor, role: 'guide' }],
      handles: isLeverFigure(spec.at)
        ? [
            {
              lever: spec.at.lever,
              part: spec.at.part ?? 'value',
              line: across,
              at,
              axis: spec.axis ?? 'same',
            },
          ]
        : [],
    };
  },
  parts: (spec, words) =>
    sentenceParts('line', {
      style: optionWord(
        tell('line.label'),
        ['style'],
        spec.style,
        lineStyles.map((value) => ({ value, text: tell('line.style', { style: value }) })),
      ),
      at: figureWord(tell('line.value'), ['at'], spec.at, words, 'anyFigure'),
      ...figureGuideSlots(spec, tell('line.atEdge')),
    }),
  without(spec, lever, context) {
    if (!isLeverFigure(spec.at) || spec.at.lever !== lever) return spec;
    return { ...spec, at: fixedFigure(spec.at, context) };
  },
};
