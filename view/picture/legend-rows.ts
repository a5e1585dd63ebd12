import { isValueColour } from '@sorvik/core/board/look';
import { localeOf } from '@sorvik/core/messages/locale';
import { stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { cssColour } from '@sorvik/core/pipeline/value-colour';
import { chartLegend } from '@sorvik/core/text/chart-words';
import type { LegendEntry } from '@sorvik/core/text/legend';
import { say } from '../say';
import { lookCss } from '../shapes/look-css';
import { make } from '../svg';

const size = 13;
const swatch = 11;
const rowHeight = 20;
const gap = 16;

/** The colours of an entry's swatch, in CSS. */
function coloursOf({ look, state, colours }: LegendEntry, { readings }: ChartResult): string[] {
  if (colours?.length) return colours.filter((each) => typeof each === 'string').map(cssColour);
  if (isValueColour(look?.colour)) return [look.colour.below, look.colour.above].map(cssColour);
  return [lookCss(look, stateCode[state], readings, 0)];
}

/** Writes what the looks of a chart mean in rows; returns their height, px. */
export function legendRows(
  sheet: SVGElement,
  output: ChartResult,
  left: number,
  top: number,
  width: number,
): number {
  const entries = chartLegend(output, { still: true });
  let x = left;
  let y = top;
  for (const entry of entries) {
    const text =
      entry.state === 'plain'
        ? entry.text
        : say(localeOf(output.input.board.locale), 'legend.state', { state: entry.state, text: entry.text });
    const wide = swatch + 6 + output.input.measure(text, size);
    if (x > left && x + wide > left + width) {
      x = left;
      y += rowHeight;
    }
    const colours = coloursOf(entry, output);
    colours.forEach((colour, i) => {
      const key = make('rect', sheet);
      const part = swatch / colours.length;
      for (const [name, value] of Object.entries({ x: x + i * part, y: y + 1, width: part, height: swatch }))
        key.setAttribute(name, value.toFixed(2));
      key.style.setProperty('fill', colour);
    });
    const label = make('text', sheet, 'sv-text');
    label.setAttribute('x', String(x + swatch + 6));
    label.setAttribute('y', String(y + swatch / 2 + 1));
    label.textContent = text;
    x += wide + gap;
  }
  return entries.length ? y - top + rowHeight + 4 : 0;
}
