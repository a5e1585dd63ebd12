import type { Figure } from '../board/figure';
import { figureNow, isShareFigure, shareOfRange } from '../conditions/figures';
import type { LeverContext } from '../levers/lever-kind';
import type { GuideContext } from './guide-kind';

/**
 * A figure on the value axis: the very one that a condition compares with. A lever's share of the range is brought to
 * the value it stands for. NaN where there is none.
 */
export function axisFigure(figure: Figure, context: GuideContext): number {
  const now = figureNow(figure, context);
  return isShareFigure(figure, context.lever) ? shareOfRange(now, context.readings) : now;
}

/** What is left of a figure when its lever goes: the value it held, or 0 where that was a share or nothing. */
export function fixedFigure(figure: Figure, context: LeverContext): number {
  const now = figureNow(figure, context);
  return Number.isNaN(now) || isShareFigure(figure, context.lever) ? 0 : now;
}
