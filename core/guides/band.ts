import { IsOptional } from '../board/validation';
import { tell } from '../messages/desk';
import { FigureGuide, figureGuideSlots } from './guide-base';
import 'reflect-metadata/lite';
import { IsIn } from 'class-validator';
import { type Figure, figureLevers, figureNeeds, IsFigure, isLeverFigure } from '../board/figure';
import { type LookColour, lookColours } from '../board/look';
import { heldOn } from '../forms/value-axis';
import { figureWord } from '../levers/figure-word';
import { colourName } from '../words/colour-name';
import { optionWord, sentenceParts, type Word } from '../words/sentence';
import { axisFigure, fixedFigure } from './axis-figure';
import { type GuideKind, nothingDrawn } from './guide-kind';

/** A stretch of the value axis behind the marks: between two figures, or from one to the edge of the plot. */
export class BandGuide extends FigureGuide {
  @IsIn(['band'])
  kind!: 'band';

  /** Left out: from the lower edge of the plot. */
  @IsOptional()
  @IsFigure()
  from?: Figure;

  /** Left out: to the upper edge. */
  @IsOptional()
  @IsFigure()
  to?: Figure;

  @IsIn(lookColours)
  colour!: LookColour;
}

const ends = ({ from, to }: BandGuide) => [from, to].filter((end) => end !== undefined);

export const band: GuideKind<BandGuide> = {
  kind: 'band',
  Spec: BandGuide,
  levers: (spec) => [...new Set(figureLevers(spec.from, spec.to))],
  needs: (spec) => figureNeeds('anyFigure', spec.from, spec.to),
  figures: (spec, context) => ends(spec).map((end) => axisFigure(end, context)),
  axis: (spec) => spec.axis ?? 'same',
  grows: ({ outside }) => outside !== 'arrow',
  rows: 0,
  place(spec, figures, { values }) {
    if (!ends(spec).length || figures.some(Number.isNaN)) return nothingDrawn;
    const [low, high] = values.domain;
    const within = (figure: number) => Math.max(low, Math.min(high, figure));
    const from = spec.from === undefined ? low : within(figures[0]!);
    const to = spec.to === undefined ? high : within(figures.at(-1)!);
    if (!(to > from)) return nothingDrawn;
    const [a, b] = [heldOn(values, from), heldOn(values, to)];
    const along = { at: Math.min(a, b), size: Math.abs(b - a) };
    const across = { at: values.crossStart, size: values.crossEnd - values.crossStart };
    const upright = values.direction === 'y';
    const [x, y] = upright ? [across, along] : [along, across];
    return {
      ...nothingDrawn,
      areas: [{ x: x.at, y: y.at, width: x.size, height: y.size, colour: spec.colour }],
      texts: spec.name
        ? [
            {
              x: x.at + (upright ? 5 : 4),
              y: y.at + (upright ? 9 : y.size - 9),
              text: spec.name,
              anchor: 'start',
              role: 'band',
            },
          ]
        : [],
    };
  },
  parts(spec, words) {
    const end = (label: string, path: 'from' | 'to', edge: string): Word =>
      spec[path] === undefined
        ? {
            slot: 'bandEnd',
            label,
            path: [path],
            text: edge,
            value: undefined,
            ability: 'anyFigure',
          }
        : { ...figureWord(label, [path], spec[path], words, 'anyFigure'), slot: 'bandEnd' };
    return sentenceParts('band', {
      from: end(tell('band.from'), 'from', tell('band.bottom')),
      to: end(tell('band.to'), 'to', tell('band.top')),
      colour: optionWord(
        tell('band.colour'),
        ['colour'],
        spec.colour,
        lookColours.map((value) => ({ value, text: colourName(value, words.locale) })),
      ),
      ...figureGuideSlots(spec, tell('band.atEdge')),
    });
  },
  without(spec, lever, context) {
    const fixed = { ...spec };
    for (const path of ['from', 'to'] as const)
      if (isLeverFigure(spec[path]) && spec[path].lever === lever)
        fixed[path] = fixedFigure(spec[path]!, context);
    return fixed;
  },
};
