import type { Look } from '@sorvik/core/board/look';
import type { Readings } from '@sorvik/core/data/readings';
import { stateCode } from '@sorvik/core/pipeline/emphasise';
import { markColour } from '@sorvik/core/pipeline/mark-colour';

/** The colour in which a mark of a state and a look is painted, in CSS; as the theme has it for elements. */
export function lookCss(look: Look | undefined, state: number, readings: Readings, index: number): string {
  if (state === stateCode.muted) return 'var(--sv-mark-muted)';
  const { named, css } = markColour(look, readings, index);
  return css ?? (named ? `var(--sv-look-${named})` : 'var(--sv-mark-plain)');
}
