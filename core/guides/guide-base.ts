import { IsIn, IsString, MaxLength } from 'class-validator';
import { measureAxes } from '../board/further-measure';
import { Switched } from '../board/switched';
import { IsOptional } from '../board/validation';
import { tell } from '../messages/desk';
import { optionWord, type Word } from '../words/sentence';

/** What every guide has, whatever it draws. */
export class GuideBase extends Switched {}

/** What happens to a guide beyond the axis: the axis grows, or an arrow with the figure stands at the edge. */
export const outsideRules = ['axis', 'arrow'] as const;

/** A guide at figures of a value axis. */
export class FigureGuide extends GuideBase {
  @IsOptional()
  @IsString()
  @MaxLength(80)
  name?: string;

  /** What happens where it lies beyond the axis: the axis grows, or only the edge shows it; left out, the axis grows. */
  @IsOptional()
  @IsIn(outsideRules)
  outside?: (typeof outsideRules)[number];

  /** The value axis it stands on: the first where it is left out. */
  @IsOptional()
  @IsIn(measureAxes)
  axis?: (typeof measureAxes)[number];
}

/** The word for a guide's name. */
export const nameWord = (name: string | undefined, label = tell('guide.name')): Word => ({
  slot: 'text',
  label,
  path: ['name'],
  text: name || tell('guide.unnamed'),
  value: name ?? '',
});

/** What the sentence of a guide at figures says of its name, and of where it is beyond the axis. */
export const figureGuideSlots = ({ name, outside }: FigureGuide, atEdge: string) => ({
  name: nameWord(name),
  outside: optionWord(tell('guide.outside'), ['outside'], outside ?? 'axis', [
    { value: 'axis', text: tell('guide.extended') },
    { value: 'arrow', text: atEdge },
  ]),
});
