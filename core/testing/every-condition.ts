import { IsIn } from 'class-validator';
import { type Figure, figureLevers, IsFigure } from '../board/figure';
import { type Claim, type ConditionKind, verdicts } from '../conditions/condition-kind';
import { figureNow } from '../conditions/figures';
import { figureWord } from '../levers/figure-word';

/** Met by every Nth reading with a value, counted from the first. */
export class EveryCondition {
  @IsIn(['every'])
  kind!: 'every';

  @IsFigure()
  nth!: Figure;
}

export const every: ConditionKind<EveryCondition, Claim & { nth: number }> = {
  kind: 'every',
  Spec: EveryCondition,
  levers: ({ nth }) => figureLevers(nth),
  needs: ({ nth }) => figureLevers(nth).map((lever) => ({ lever, ability: 'figure' })),
  usual: {
    text: () => 'that are every 3rd one',
    offer: { use: () => 'A rhythm.' },
    make: () => ({ kind: 'every', nth: 3 }),
  },
  evaluate({ nth }, context) {
    const { value, length } = context.readings;
    const verdict = new Uint8Array(length);
    const step = Math.floor(figureNow(nth, context));
    if (!(step >= 1)) return { active: false, verdict };
    let seen = 0;
    for (let i = 0; i < length; i++) {
      // A null is never counted: nothing is known of it.
      if (Number.isNaN(value[i]!)) verdict[i] = verdicts.unknown;
      else verdict[i] = ++seen % step === 0 ? verdicts.yes : verdicts.no;
    }
    return { active: true, verdict };
  },
  filters: () => null,
  rowFilter: () => null,
  unfit: () => null,
  restText: () => 'it counts by nothing',
  legend: ({ nth }, context) => [`every one of ${figureNow(nth, context)}`],
  parts: ({ nth }, words) => ['that are every one of ', figureWord('Nth', ['nth'], nth, words)],
  claim: (spec, context, index) => ({
    says: 'every',
    verdict: every.evaluate(spec, context).verdict[index]!,
    nth: Math.floor(figureNow(spec.nth, context)),
  }),
  claimText: ({ nth, verdict }) => `it is ${verdict === verdicts.yes ? '' : 'not '}one of every ${nth}`,
  without: (spec, lever, context) =>
    figureLevers(spec.nth).includes(lever) ? { ...spec, nth: figureNow(spec.nth, context) } : spec,
};
