import { IsIn } from 'class-validator';
import { IsOptional } from '../board/validation';
import { tell } from '../messages/desk';
import { say } from '../messages/say';
import { optionWord, sentenceParts } from '../words/sentence';
import { type Claim, type ConditionContext, type ConditionKind, verdicts } from './condition-kind';

export const focusReaches = ['mark', 'series', 'category'] as const;
type FocusReach = (typeof focusReaches)[number];

/** Met by the mark that the pointer or the keyboard is on, or by all of its series. It passes, and leaves no trace. */
export class FocusCondition {
  @IsIn(['focus'])
  kind!: 'focus';

  /** How far it reaches from the mark pointed at; the mark alone where it is left out. */
  @IsOptional()
  @IsIn(focusReaches)
  of?: FocusReach;
}

/** What the mark at an index shares with those that are lit along with it. */
function keyOf(of: FocusReach | undefined, { readings }: ConditionContext): ArrayLike<number> | null {
  return of === 'series' ? readings.seriesOf : of === 'category' ? readings.place : null;
}

interface FocusClaim extends Claim {
  /** What is pointed at. */
  what: FocusReach;
}

export const focus: ConditionKind<FocusCondition, FocusClaim> = {
  kind: 'focus',
  Spec: FocusCondition,
  levers: () => [],
  usual: {
    text: () => tell('focus', { of: 'none', how: '' }),
    offer: {
      use: () => tell('focus.use'),
      text: ({ mark }) => tell('focus.offer', { mark }),
    },
    make: () => ({ kind: 'focus' }),
  },
  restText: (locale) => say(locale, 'rest.focus'),
  readsFocus: () => true,
  evaluate({ of }, context) {
    const { readings, focus: index = -1, focusSeries = -1 } = context;
    const verdict = new Uint8Array(readings.length);
    if (focusSeries >= 0 && focusSeries < readings.series.length) {
      verdict.fill(verdicts.yes, readings.starts[focusSeries], readings.starts[focusSeries + 1]);
      return { active: true, verdict };
    }
    if (index < 0 || index >= readings.length) return { active: false, verdict };
    const keys = keyOf(of, context);
    if (!keys) verdict[index] = verdicts.yes;
    else if (of === 'series') {
      const series = keys[index]!;
      verdict.fill(verdicts.yes, readings.starts[series], readings.starts[series + 1]);
    } else for (let i = 0; i < verdict.length; i++) if (keys[i] === keys[index]) verdict[i] = verdicts.yes;
    return { active: true, verdict };
  },
  filters: () => null,
  rowFilter: () => null,
  unfit: () => null,
  more: (spec, { split }) =>
    spec.of || !split
      ? []
      : [
          { text: tell('focus.withSeries'), spec: { ...spec, of: 'series' } },
          { text: tell('focus.withCategory'), spec: { ...spec, of: 'category' } },
        ],
  legend: (_spec, _context, { locale }) => [say(locale, 'legend.focus')],
  parts: ({ of }) =>
    sentenceParts('focus', {
      of: of ?? 'none',
      how: optionWord(tell('focus.label'), ['of'], of, [
        { value: 'series', text: tell('focus.series') },
        { value: 'category', text: tell('focus.category') },
        { value: 'mark', text: tell('focus.mark') },
      ]),
    }),
  claim({ of }, context, index) {
    const { readings, focus: at = -1, focusSeries = -1 } = context;
    const said = (what: FocusClaim['what'], is: boolean): FocusClaim => ({
      says: 'focus',
      verdict: is ? verdicts.yes : verdicts.no,
      what,
    });
    if (focusSeries >= 0) return said('series', readings.seriesOf[index] === focusSeries);
    const keys = keyOf(of, context);
    const is = at === index || (at >= 0 && keys !== null && keys[index] === keys[at]);
    return said(at === index || !keys ? 'mark' : of!, is);
  },
  claimText: ({ what, verdict }, { locale }) =>
    say(locale, 'claim.focus', { what, is: verdict === verdicts.yes ? 'yes' : 'no' }),
};
