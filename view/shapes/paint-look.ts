import type { Look } from '@sorvik/core/board/look';
import type { Readings } from '@sorvik/core/data/readings';
import { stateCode } from '@sorvik/core/pipeline/emphasise';
import { markColour } from '@sorvik/core/pipeline/mark-colour';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import type { Written } from '../svg';

/** Writes a look to an element: its words as an attribute, for the theme, and a colour of its own as a property. */
export function paintLook(
  written: Written<SVGElement>,
  look: Look | undefined,
  readings: Readings,
  index: number,
): void {
  const { named, css } = markColour(look, readings, index);
  const words = [named, look?.outline && 'outline', look?.hatch && 'hatch', look?.weight];
  written.set('data-look', words.filter(Boolean).join(' '));
  // A colour of the author's own is none of the theme's.
  written.set('style', css ? `--sv-look:${css}` : '');
}

/**
 * The look that shows: a mark that is plain, or lit in a look without a colour, has the colour of its series where plain
 * marks have it.
 */
export function shownLook(
  { seriesColours, seriesLook, emphasis }: ChartResult,
  look: number,
  state: number,
  series: number,
): Look | undefined {
  const own = emphasis.looks[look];
  const keeps = state === stateCode.plain || state === stateCode.lit;
  return seriesColours && keeps && !own?.colour ? { ...seriesLook(series), ...own } : own;
}

/** Whether two looks paint alike; one that follows a measure may not, even where it reads the same. */
export function sameLook(a: Look | undefined, b: Look | undefined): boolean {
  if (a === b) return true;
  if (!a || !b || typeof a.colour === 'object') return false;
  return (
    a.colour === b.colour &&
    a.outline === b.outline &&
    a.hatch === b.hatch &&
    a.weight === b.weight &&
    a.marker === b.marker &&
    a.markerSize === b.markerSize
  );
}
