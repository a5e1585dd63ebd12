import { withoutLever as withoutFormulaLever } from '@sorvik/formula/without-lever';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import { isStandIn } from '../board/cue';
import { figureLevers } from '../board/figure';
import { formulaKeys } from '../board/text-formulas';
import { type Condition, conditionKinds } from '../conditions/registry';
import { fixedFigure } from '../guides/axis-figure';
import { guideKinds } from '../guides/registry';
import { heldBy } from '../levers/formula-levers';
import type { LeverContext } from '../levers/lever-kind';
import { titleParts } from '../words/title-parts';

/** A text in which a lever's name stands for what it held. */
const withoutLever = (text: string, id: string, name: string): string =>
  titleParts(text)
    .map((part) => (typeof part === 'string' ? part : part.lever === id ? name : `{${part.lever}}`))
    .join('');

/** Puts what a lever held in its place in every formula of a part. */
function freeFormulas(part: unknown, id: string, held: (part: string | undefined) => unknown): void {
  if (Array.isArray(part)) for (const item of part) freeFormulas(item, id, held);
  if (typeof part !== 'object' || part === null || Array.isArray(part)) return;
  const holder = part as Record<string, unknown>;
  for (const [key, value] of Object.entries(holder)) {
    if (typeof value !== 'string') freeFormulas(value, id, held);
    else if (formulaKeys.includes(key)) {
      const next = withoutFormulaLever(value, id, held);
      if (next !== value) holder[key] = next;
    }
  }
}

/** Takes a lever out of a chart's draft: figures keep what it held, sentences that mean nothing without it go. */
function removeFromChart(chart: Chart, id: string, context: LeverContext, name: string): void {
  chart.cues = chart.cues.flatMap((cue) => {
    if (cue.when === id) delete cue.when;
    if (isStandIn(cue.resting) && cue.resting.lever === id) cue.resting = 'plain';
    const kind = conditionKinds.get(cue.condition.kind);
    if (!kind.levers(cue.condition).includes(id)) return [cue];
    const condition = kind.without?.(cue.condition, id, context) as Condition | null | undefined;
    return condition ? [{ ...cue, condition }] : [];
  });
  chart.guides = chart.guides.map((guide) => {
    if (guide.when === id) delete guide.when;
    return guideKinds.get(guide.kind).without(guide, id, context);
  });
  if (chart.whole && figureLevers(chart.whole.figure).includes(id))
    chart.whole = { of: 'figure', figure: fixedFigure(chart.whole.figure!, context) };
  if (chart.window?.lever === id) delete chart.window;
  chart.touches = chart.touches.filter((touch) => touch.lever !== id);
  for (const text of ['title', 'subtitle'] as const)
    if (chart[text]) chart[text] = withoutLever(chart[text], id, name);
}

/** Takes a lever off a draft of a board, with every sentence that means nothing without it. */
export function removeLever(draft: Board, id: string, context: LeverContext): void {
  const lever = draft.levers.find((each) => each.id === id);
  const name = lever?.name ?? id;
  const position = context.positionOf(id);
  if (lever)
    for (const chart of draft.charts) freeFormulas(chart, id, (part) => heldBy(lever, position, part));
  draft.levers = draft.levers.filter((lever) => lever.id !== id);
  for (const chart of draft.charts) removeFromChart(chart, id, context, name);
  for (const moment of draft.moments ?? []) delete moment.at[id];
  for (const note of draft.notes ?? []) note.text = withoutLever(note.text, id, name);
}
