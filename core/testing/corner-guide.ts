import { IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import { GuideBase } from '../guides/guide-base';
import { type GuideKind, nothingDrawn } from '../guides/guide-kind';
import { optionWord } from '../words/sentence';

const sides = ['left', 'right'] as const;

/** A short text in an upper corner of the plot. */
export class CornerGuide extends GuideBase {
  @IsIn(['corner'])
  kind!: 'corner';

  @IsString()
  @IsNotEmpty()
  @MaxLength(80)
  text!: string;

  @IsIn(sides)
  side!: (typeof sides)[number];
}

export const corner: GuideKind<CornerGuide> = {
  kind: 'corner',
  Spec: CornerGuide,
  levers: () => [],
  needs: () => [],
  figures: () => [],
  place({ text, side }, _figures, { values, sight }) {
    const standing = values.direction === 'y';
    const [from, to] = standing ? [values.crossStart, values.crossEnd] : [values.start, values.end];
    const top = standing ? Math.min(values.start, values.end) : values.crossStart;
    const [x, anchor] = side === 'left' ? [from, 'start' as const] : [Math.min(to, sight), 'end' as const];
    return { ...nothingDrawn, texts: [{ x, y: top - 9, text, anchor, role: 'guide' }] };
  },
  parts: ({ text, side }) => [
    'Writes ',
    { slot: 'text', label: 'Text', path: ['text'], text, value: text },
    ' in the corner at the ',
    optionWord(
      'Side',
      ['side'],
      side,
      sides.map((value) => ({ value, text: value })),
    ),
  ],
  without: (spec) => spec,
};
