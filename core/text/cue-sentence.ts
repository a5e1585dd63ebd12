import { type Board, leverOf, toneOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type Cue, type CueResting, isStandIn } from '../board/cue';
import { type Colour, isNamedColour, isValueColour, type Look, seriesColour } from '../board/look';
import type { MutedTone } from '../board/otherwise';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { kindOf } from '../levers/registry';
import { tell } from '../messages/desk';
import { shownMeasures } from '../pipeline/chart-rules';
import { nearestStrong, weakSpots } from '../pipeline/colour-check';
import { asksPerMove, cubeRequest } from '../pipeline/cube-request';
import { dimensionText } from '../words/dimension-text';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import { optionWord, type Part, type Sentence, sentenceParts, under } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { lookText } from './look-text';
import { unable, whenParts } from './sentence-needs';

/** "all plain", "as with Quel picked". */
export function restingText(resting: CueResting, words: Vocabulary): string {
  if (!isStandIn(resting)) return tell('resting', { resting });
  const lever = words.lever(resting.lever);
  if (!lever) return tell('resting.default');
  const kind = kindOf(lever);
  const source = kind.source?.(lever);
  const type = source && words.field(source.field)?.type;
  const values = kind
    .values?.(resting.position)
    ?.map((value) => keyText(value, words.locale, type, source?.grain));
  return tell('resting.asWith', {
    position: values?.length
      ? listed(values, words.locale, 3)
      : kind.summary(lever, resting.position, undefined, words.locale),
  });
}

/** What is wrong with a colour of the author's own, and the nearest that would do. */
function weakColour(colour: Colour | undefined, tone: MutedTone): string | null {
  if (isValueColour(colour)) return weakColour(colour.above, tone) ?? weakColour(colour.below, tone);
  if (!colour || colour === seriesColour || isNamedColour(colour)) return null;
  const [first] = weakSpots(colour, tone);
  if (!first) return null;
  return tell('look.weak', {
    colour,
    ground: first.ground,
    seen: first.vision,
    nearest: nearestStrong(colour, tone),
  });
}

const weakLook = (looks: readonly Look[], tone: MutedTone): string | null =>
  looks.map(({ colour }) => weakColour(colour, tone)).find((problem) => problem !== null) ?? null;

/** ", the rest as one bar". */
function remainderParts({ remainder = 'gone' }: Cue, { by, form }: Chart): Part[] {
  if (by.grain) return [];
  const mark = formKinds.get(form).markNoun;
  return sentenceParts('keep.rest', {
    rest: optionWord(tell('keep.restLabel'), ['remainder'], remainder, [
      { value: 'together', text: tell('keep.together', { mark }), note: tell('keep.togetherNote') },
      { value: 'gone', text: tell('keep.gone'), note: tell('keep.goneNote') },
    ]),
  });
}

/** Why a condition cannot do to a chart what its cue says. */
function cannotDo({ effect, condition }: Cue, chart: Chart, board: Board, words: Vocabulary): string | null {
  const kind = conditionKinds.get(condition.kind);
  const lever = (id: string) => leverOf(board, id);
  if (effect === 'filter') return kind.filters(condition, lever) === null ? tell('cue.noFilter') : null;
  if (effect === 'keep' && !kind.keepsCategories) return tell('cue.noKeep');
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
      parts: sentenceParts('filter', {
        filters: effect(tell('filter.effect')),
        meets,
        when,
        rests: rest ? 'yes' : 'no',
        rest: rest ?? '',
      }),
    };
  const noOthers =
    cue.remainder === 'together' && !chart.by.grain && asksPerMove(cubeRequest(chart, board, words.engine));
  if (cue.effect === 'keep')
    return {
      ...base,
      ...(noOthers ? { note: tell('keep.noOthers') } : {}),
      parts: sentenceParts('keep', {
        keeps: effect(tell('keep.effect')),
        categories: words.locale.plural(dimensionText(chart.by, words)),
        meets,
        when,
        rest: remainderParts(cue, chart),
      }),
    };
  return {
    ...base,
    parts: sentenceParts('light', {
      lights: effect(tell('light.effect')),
      marks: formKinds.get(chart.form).noun,
      meets: [...meets, { slot: 'join', text: '+', path: ['condition'], value: cue.condition }],
      when,
      look: { slot: 'look', path: ['look'], text: lookText(cue.look, words), value: cue.look },
      sides: (condition.variants?.(cue.condition, words) ?? []).flatMap((name, i) => {
        const own = { ...sideLooks[i], ...cue.looks?.[i] };
        return sentenceParts('light.side', {
          side: name,
          look: {
            slot: 'look',
            path: ['looks', i],
            text: lookText(own, words, tell('light.sameLook')),
            value: own,
          },
        });
      }),
      rests: rest ? 'yes' : 'no',
      rest: rest ?? '',
      resting: { slot: 'resting', text: restingText(cue.resting, words), value: cue.resting },
    }),
  };
}
