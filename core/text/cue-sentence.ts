import { type Board, leverOf, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type Cue, type CueResting, isStandIn } from '../board/cue';
import { type Colour, isNamedColour, isValueColour, type Look, seriesColour } from '../board/look';
import type { MutedTone } from '../board/otherwise';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { kindOf } from '../levers/registry';
import { shownMeasures } from '../pipeline/chart-rules';
import { nearestStrong, weakSpots } from '../pipeline/colour-check';
import { asksPerMove, cubeRequest } from '../pipeline/cube-request';
import { dimensionText } from '../words/dimension-text';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import { optionWord, type Part, type Sentence, under } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { lookText } from './look-text';
import { unable, whenParts } from './sentence-needs';

/** "all plain", "as with Quel picked". */
export function restingText(resting: CueResting, words: Vocabulary): string {
  if (!isStandIn(resting)) return resting === 'muted' ? 'all muted' : 'all plain';
  const lever = words.lever(resting.lever);
  if (!lever) return 'the default';
  const kind = kindOf(lever);
  const source = kind.source?.(lever);
  const type = source && words.field(source.field)?.type;
  const values = kind
    .values?.(resting.position)
    ?.map((value) => keyText(value, words.locale, type, source?.grain));
  return `as with ${values?.length ? listed(values, words.locale, 3) : kind.summary(lever, resting.position, undefined, words.locale)}`;
}

/** What is wrong with a colour of the author's own, and the nearest that would do. */
function weakColour(colour: Colour | undefined, tone: MutedTone): string | null {
  if (isValueColour(colour)) return weakColour(colour.above, tone) ?? weakColour(colour.below, tone);
  if (!colour || colour === seriesColour || isNamedColour(colour)) return null;
  const [first] = weakSpots(colour, tone);
  if (!first) return null;
  return `${colour} is too close to the muted colour in the ${first.ground} theme, ${first.vision}: ${nearestStrong(colour, tone)} would.`;
}

const weakLook = (looks: readonly Look[], tone: MutedTone): string | null =>
  looks.map(({ colour }) => weakColour(colour, tone)).find((problem) => problem !== null) ?? null;

/** ", the rest as one bar." */
function remainderParts({ remainder = 'gone' }: Cue, { by, form }: Chart): Part[] {
  if (by.grain) return ['.'];
  const { markNoun } = formKinds.get(form);
  return [
    ', the rest ',
    optionWord('The rest', ['remainder'], remainder, [
      { value: 'together', text: `as one ${markNoun}`, note: 'others, after all of them' },
      { value: 'gone', text: 'gone', note: 'totals stay what they are' },
    ]),
    '.',
  ];
}

/** Why a condition cannot do to a chart what its cue says. */
function cannotDo({ effect, condition }: Cue, chart: Chart, board: Board, words: Vocabulary): string | null {
  const kind = conditionKinds.get(condition.kind);
  const lever = (id: string) => leverOf(board, id);
  if (effect === 'filter')
    return kind.filters(condition, lever) === null
      ? 'This can light marks, not filter rows: it tests charted values, which exist only after filtering.'
      : null;
  if (effect === 'keep' && !kind.keepsCategories)
    return 'This can light marks, not keep some: only a count or limits can.';
  return kind.unfit(condition, chart, lever, words);
}

export function cueSentence(
  cue: Cue,
  index: number,
  chart: Chart,
  board: Board,
  words: Vocabulary,
): Sentence {
  const condition = conditionKinds.get(cue.condition.kind);
  const meets = under(['condition'], condition.parts(cue.condition, words, shownMeasures(chart)));
  const effect = (text: string): Part => ({ slot: 'effect', text, value: cue.effect });
  const needs = condition.needs?.(cue.condition) ?? [];
  const cannot =
    unable(needs, board) ??
    cannotDo(cue, chart, board, words) ??
    (cue.effect === 'light' ? weakLook([cue.look, ...(cue.looks ?? [])], toneOf(chart, board)) : null);
  const base = {
    id: `cue-${cue.id}`,
    levers: [...condition.levers(cue.condition), ...(cue.when ? [cue.when] : [])],
    part: ['cues', index],
    ...(cannot ? { problem: cannot } : {}),
  };
  const rest = condition.restText?.(words.locale);
  const sideLooks = condition.sideLooks?.(cue.condition, words) ?? [];
  const when = whenParts(cue.when, words);
  if (cue.effect === 'filter')
    return {
      ...base,
      parts: [
        effect('Filters to'),
        ' rows ',
        ...meets,
        ...when,
        ...(rest ? [`; while ${rest}, all rows.`] : ['.']),
      ],
    };
  const noOthers =
    cue.remainder === 'together' && !chart.by.grain && asksPerMove(cubeRequest(chart, board, words.engine));
  if (cue.effect === 'keep')
    return {
      ...base,
      ...(noOthers
        ? { note: 'The others have no value: this measure cannot be put together from parts.' }
        : {}),
      parts: [
        effect('Keeps only'),
        ` ${words.locale.plural(dimensionText(chart.by, words))} `,
        ...meets,
        ...when,
        ...remainderParts(cue, chart),
      ],
    };
  return {
    ...base,
    parts: [
      effect('Lights'),
      ` ${formKinds.get(chart.form).noun} `,
      ...meets,
      { slot: 'join', text: '+', path: ['condition'], value: cue.condition },
      ...when,
      ', in ',
      { slot: 'look', path: ['look'], text: lookText(cue.look, words), value: cue.look },
      ...(condition.variants?.(cue.condition, words) ?? []).flatMap((name, i): Part[] => {
        const own = { ...sideLooks[i], ...cue.looks?.[i] };
        return [
          `; ${name} in `,
          { slot: 'look', path: ['looks', i], text: lookText(own, words, 'the same'), value: own },
        ];
      }),
      ...(rest
        ? [
            `; while ${rest}, `,
            { slot: 'resting', text: restingText(cue.resting, words), value: cue.resting } as const,
          ]
        : []),
      '.',
    ],
  };
}
