import { leversIn } from '@sorvik/formula/lever-names';
import type { Chart, Single } from '../board/chart';
import { figureLevers, isLeverFigure } from '../board/figure';
import { formulasIn } from '../board/formulas-naming';
import type { LeverAbility } from '../board/lever-ability';
import { conditionKinds } from '../conditions/registry';
import { guideKinds } from '../guides/registry';
import { subtitleLevers } from '../words/subtitle';
import { titleLevers } from '../words/title-parts';
import { formulaMeasures } from './cube-request';

/** What a lever and a chart have to do with each other. */
export const useWords = [
  'lights',
  'filters',
  'keeps',
  'places',
  'windows',
  'switches',
  'titles',
  'feeds',
  'compares',
  'fed',
] as const;
export type UseWord = (typeof useWords)[number];

export interface LeverUse {
  lever: string;
  how: UseWord;
  /** Where in the chart it is named, as a JSON Pointer from the chart on. */
  pointer: string;
  /** What the lever must be able to do for that. */
  ability?: LeverAbility;
  /** Switched off: it is named, and does nothing. */
  off?: boolean;
  /** It is named in a text, which may name what is not there: the sentence says so. */
  loose?: true;
}

const isOff = (off: boolean | undefined) => (off ? { off: true } : {});

const howWords = { light: 'lights', filter: 'filters', keep: 'keeps' } as const;

/** Whether a part names a lever in a formula. */
const inText = (lever: string, part: object) =>
  [...formulasIn(part)].some((text) => leversIn(text).includes(lever)) ? { loose: true as const } : {};

/** Every place in which a chart names a lever. */
export function leverUses(chart: Chart): LeverUse[] {
  const uses: LeverUse[] = [];
  const single = (part: Single) => isOff(chart.off?.includes(part));
  chart.cues.forEach((cue, i) => {
    const kind = conditionKinds.get(cue.condition.kind);
    const off = isOff(cue.off);
    const abilities = new Map(kind.needs?.(cue.condition).map((need) => [need.lever, need.ability]));
    for (const lever of kind.levers(cue.condition)) {
      const ability = abilities.get(lever);
      uses.push({
        lever,
        how: howWords[cue.effect],
        pointer: `/cues/${i}/condition`,
        ...(ability ? { ability } : inText(lever, cue.condition)),
        ...off,
      });
    }
    if (cue.when)
      uses.push({ lever: cue.when, how: 'switches', pointer: `/cues/${i}/when`, ability: 'isOn', ...off });
  });
  chart.guides.forEach((guide, i) => {
    const kind = guideKinds.get(guide.kind);
    const abilities = new Map(kind.needs(guide).map((need) => [need.lever, need.ability]));
    for (const lever of new Set(kind.levers(guide))) {
      const ability = abilities.get(lever);
      uses.push({
        lever,
        how: 'places',
        pointer: `/guides/${i}`,
        ...(ability ? { ability } : inText(lever, guide)),
        ...isOff(guide.off),
      });
    }
    if (guide.when)
      uses.push({
        lever: guide.when,
        how: 'switches',
        pointer: `/guides/${i}/when`,
        ability: 'isOn',
        ...isOff(guide.off),
      });
  });
  for (const lever of figureLevers(chart.whole?.figure))
    uses.push({
      lever,
      how: 'places',
      pointer: '/whole/figure',
      ...(isLeverFigure(chart.whole?.figure) ? { ability: 'figure' } : { loose: true }),
      ...single('whole'),
    });
  if (chart.window)
    uses.push({
      lever: chart.window.lever,
      how: 'windows',
      pointer: '/window/lever',
      ability: 'stretch',
      ...single('window'),
    });
  if (chart.compare?.with === 'touched' && chart.compare.lever)
    uses.push({
      lever: chart.compare.lever,
      how: 'compares',
      pointer: '/compare/lever',
      ability: 'values',
      ...single('compare'),
    });
  chart.touches.forEach((touch, i) => {
    uses.push({ lever: touch.lever, how: 'fed', pointer: `/touches/${i}/lever`, ...isOff(touch.off) });
  });
  for (const { text = '' } of formulaMeasures(chart))
    for (const lever of leversIn(text)) uses.push({ lever, how: 'feeds', pointer: '/measure', loose: true });
  for (const part of ['beside', 'pointed'] as const)
    for (const lever of leversIn(chart[part] ?? ''))
      uses.push({ lever, how: 'feeds', pointer: `/${part}`, loose: true, ...single(part) });
  for (const lever of titleLevers(chart.title ?? '')) uses.push({ lever, how: 'titles', pointer: '/title' });
  for (const lever of subtitleLevers(chart.subtitle ?? ''))
    uses.push({ lever, how: 'titles', pointer: '/subtitle', ...single('subtitle') });
  return uses;
}
