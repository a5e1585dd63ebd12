import { isNegated, joined, negated, partsOf, replaced, without } from '@sorvik/core/conditions/combined';
import type { Condition } from '@sorvik/core/conditions/registry';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { makeCondition, usualConditions } from '@sorvik/core/edit/offers/join';
import { shownMeasures } from '@sorvik/core/pipeline/chart-rules';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

/** Adds a condition to a sentence, takes one away, or turns it round. */
export function JoinEditor({ board, chart, dataset, words, sentence, word, change }: EditorProps) {
  const condition = word.value as Condition;
  const textOf = (each: Condition) =>
    conditionKinds
      .get(each.kind)
      .parts(each, words, shownMeasures(chart))
      .map((part) => (typeof part === 'string' ? part : part.text))
      .join('');
  const parts = partsOf(condition);
  const turned = '!';
  const more = parts.flatMap((each, at) =>
    (conditionKinds.get(each.kind).more?.(each, chart) ?? []).map(({ text, spec }) => ({
      text: parts.length > 1 ? `${text} ("${textOf(each)}")` : text,
      made: replaced(condition, at, spec as Condition),
    })),
  );
  const options = [
    ...usualConditions(chart, dataset, board).map(({ kind, text }) => ({
      value: `+${kind}`,
      text: tell('bench.joinEditor.andText', { text }),
    })),
    ...more.map(({ text }, i) => ({ value: `~${i}`, text })),
    {
      value: turned,
      text: isNegated(condition) ? tell('bench.joinEditor.withoutNot') : tell('bench.joinEditor.notInvert'),
    },
    ...(parts.length > 1
      ? parts.map((each, i) => ({
          value: `-${i}`,
          text: tell('bench.joinEditor.without', { text: textOf(each) }),
        }))
      : []),
  ];
  return (
    <OptionList
      label={tell('bench.joinEditor.combine')}
      options={options}
      chosen={undefined}
      onChoose={(chosen) =>
        change((draft, draftBoard) => {
          const next =
            chosen === turned
              ? negated(condition)
              : chosen.startsWith('~')
                ? more[Number(chosen.slice(1))]!.made
                : chosen.startsWith('-')
                  ? without(condition, Number(chosen.slice(1)))
                  : joined(condition, makeCondition(chosen.slice(1), draftBoard, chart, dataset));
          setWord(draft, sentence, word, next);
        })
      }
    />
  );
}
