import { IsIn, IsString, MaxLength } from 'class-validator';
import { type LookColour, lookColours } from '../board/look';
import { IsKeyValue } from '../board/split';
import { IsOptional } from '../board/validation';
import { isTemporal, type KeyValue } from '../data/values';
import { tell } from '../messages/desk';
import { colourName } from '../words/colour-name';
import { keyText } from '../words/key-text';
import { optionWord, sentenceParts } from '../words/sentence';
import { GuideBase, nameWord } from './guide-base';
import { type GuideKind, nothingDrawn } from './guide-kind';

/** A tinted ground behind the marks of one category, with a note of what is to be known of it. */
export class CategoryGuide extends GuideBase {
  @IsIn(['category'])
  kind!: 'category';

  @IsKeyValue()
  value!: KeyValue;

  @IsIn(lookColours)
  colour!: LookColour;

  @IsOptional()
  @IsString()
  @MaxLength(80)
  name?: string;
}

/** The note stands this far within the plot, px. */
const inset = 4;

export const category: GuideKind<CategoryGuide> = {
  kind: 'category',
  Spec: CategoryGuide,
  levers: () => [],
  needs: () => [],
  figures: () => [],
  rows: 0,
  place(spec, _figures, { band, values, places, measure }) {
    const at = places.indexOf(spec.value);
    if (at < 0 || at >= band.count) return nothingDrawn;
    const from = band.start + at * band.step;
    const [low, high] = [Math.min(values.start, values.end), Math.max(values.start, values.end)];
    const upright = band.direction === 'x';
    const area = upright
      ? { x: from, y: low, width: band.step, height: high - low }
      : { x: low, y: from, width: high - low, height: band.step };
    const middle = from + band.step / 2;
    // Above a column the note stays within the plot; beside a bar it stands at the far end.
    const half = measure(spec.name ?? '', 12, true) / 2;
    const x = upright
      ? Math.max(values.crossStart + half, Math.min(values.crossEnd - half, middle))
      : high - inset;
    return {
      ...nothingDrawn,
      areas: [{ ...area, colour: spec.colour }],
      texts: spec.name
        ? [
            {
              x,
              y: upright ? low - 8 : middle,
              text: spec.name,
              anchor: upright ? 'middle' : 'end',
              role: 'event',
            },
          ]
        : [],
    };
  },
  unfit({ by, against }, words) {
    if (against) return tell('highlight.alongMeasure');
    const type = words.field(by.field)?.type;
    return type && isTemporal(type) ? tell('highlight.inTime') : null;
  },
  parts: (spec, words) =>
    sentenceParts('highlight', {
      category: {
        slot: 'keyValue',
        label: tell('highlight.category'),
        path: ['value'],
        text: keyText(spec.value, words.locale),
        value: spec.value,
      },
      colour: optionWord(
        tell('highlight.colour'),
        ['colour'],
        spec.colour,
        lookColours.map((value) => ({ value, text: colourName(value, words.locale) })),
      ),
      name: nameWord(spec.name, tell('highlight.note')),
    }),
  without: (spec) => spec,
};
