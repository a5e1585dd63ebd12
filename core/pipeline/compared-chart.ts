import type { Chart } from '../board/chart';
import { type Compare, comparedLooks } from '../board/compare';
import type { Cue } from '../board/cue';
import type { FigureFormat } from '../board/figure-format';
import type { Look } from '../board/look';
import { formatOf } from '../board/measure';
import { conditionKinds } from '../conditions/registry';
import { guideKinds } from '../guides/registry';
import type { WrittenFormat } from '../words/figure-writer';

/** The looks of what is above and below, with one colour each, or with colours that grow with the distance from zero. */
function looksOf({ above = comparedLooks.above, below = comparedLooks.below, colours }: Compare) {
  const fixed = (look: Look, usual: string) => (typeof look.colour === 'string' ? look.colour : usual);
  if (colours !== 'growing') return { above, below };
  const colour = {
    by: 'gradient',
    above: fixed(above, comparedLooks.above.colour),
    below: fixed(below, comparedLooks.below.colour),
  } as const;
  return { above: { ...above, colour }, below: { ...below, colour } };
}

function comparedFormat(format: FigureFormat | undefined, as: Compare['as']): WrittenFormat {
  if (as === 'percent') return { as: 'percent', signed: true };
  // Marks stand at their distance from once as much; their figures say how many times it is.
  if (as === 'ratio') return { as: 'number', decimals: 2, unit: '×', from: 1 };
  return { ...(format ?? { as: 'number' }), signed: true };
}

const light = (id: string, condition: Cue['condition'], look: Cue['look']): Cue => ({
  id,
  effect: 'light',
  condition,
  look,
  resting: 'plain',
});

/** Beside one that is touched only what keeps rows goes on, and what the pointer is on. */
const keepsOn = ({ effect, condition }: Cue) =>
  effect === 'filter' || conditionKinds.get(condition.kind).readsFocus?.(condition) === true;

/**
 * A chart while its marks are compared: figures carry their sign, what is above and below looks its own way before all
 * that the author says, and nothing is drawn at figures that mean something else now.
 */
export function comparedChart(chart: Chart, compare: Compare): Chart {
  const { lever, as } = compare;
  const looks = looksOf(compare);
  const { whole: _whole, axis: _axis, ...rest } = chart;
  return {
    ...rest,
    measure: { ...chart.measure, format: comparedFormat(formatOf(chart.measure), as), compared: as },
    cues: [
      ...(lever
        ? [
            light(
              'compared-reference',
              { kind: 'member', lever },
              { colour: 'ink', outline: true, label: true },
            ),
          ]
        : []),
      light('compared-above', { kind: 'threshold', is: 'above', limit: 0 }, looks.above),
      light('compared-below', { kind: 'threshold', is: 'below', limit: 0 }, looks.below),
      ...chart.cues.filter((cue) => !lever || keepsOn(cue)),
    ],
    guides: chart.guides.filter(({ kind }) => guideKinds.get(kind).axis === undefined),
  };
}
