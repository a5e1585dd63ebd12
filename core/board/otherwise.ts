import { IsIn } from 'class-validator';
import { IsOptional } from './validation';

/** How pale muted marks are: one of the theme's tones on each ground. */
export const mutedTones = ['faint', 'quiet', 'firm'] as const;
export type MutedTone = (typeof mutedTones)[number];
/** The tone of boards and charts that name none. */
export const usualTone: MutedTone = 'quiet';

export const otherwiseMarks = ['muted', 'gone'] as const;

/** What a chart's marks are that no active cue lights. */
export class Otherwise {
  /** Muted in their places, or not drawn; the axis stays as it is either way. */
  @IsIn(otherwiseMarks)
  marks!: (typeof otherwiseMarks)[number];

  /** How pale; the board's tone where it is left out. */
  @IsOptional()
  @IsIn(mutedTones)
  tone?: MutedTone;
}

/** When a mark carries its figure. */
export const labelRules = ['always', 'lit', 'never'] as const;
export type LabelRule = (typeof labelRules)[number];
