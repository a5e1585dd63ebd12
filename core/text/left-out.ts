import { type Locale, localeOf } from '../messages/locale';
import { say } from '../messages/say';
import { stateCode } from '../pipeline/emphasise';
import { shapeKinds } from '../pipeline/shapes/registry';
import type { ChartResult } from '../pipeline/stage';
import { beyondText } from './beyond-text';

/** Of marks that are not drawn, how many are lit: nobody would see it. */
function leftOutLit({ scene, emphasis }: ChartResult, locale: Locale): string {
  let lit = 0;
  for (let i = 0; i < emphasis.state.length; i++)
    if (
      emphasis.state[i] === stateCode.lit &&
      !(scene.marks.x[i]! + scene.marks.y[i]! > Number.NEGATIVE_INFINITY)
    )
      lit++;
  return lit ? say(locale, 'left.lit', { n: lit }) : '';
}

/** What of a chart is not on its plot: marks that are not drawn, and values beyond its axis; empty where all is there. */
export function leftOutText(result: ChartResult): string {
  const { scene, readings } = result;
  const locale = localeOf(result.input.board.locale);
  return [
    scene.omitted ? shapeKinds.get(scene.marks.shape).leftOut(scene, readings, locale) : '',
    scene.omitted ? leftOutLit(result, locale) : '',
    beyondText(scene, readings.length, locale),
  ]
    .filter(Boolean)
    .join(' ');
}
