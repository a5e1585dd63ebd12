import { leverOf } from '@sorvik/core/board/board';
import { pickLeverFor } from '@sorvik/core/board/defaults';
import { clearings } from '@sorvik/core/levers/lever-kind';
import { clearingText } from '@sorvik/core/words/chart-sentences';
import { cutText } from '@sorvik/core/words/cut-text';
import { OptionList } from '../../ui/OptionList';
import type { EditorProps } from './editor-kind';

const made = '+';

/** Which lever the sentence reads or moves. */
export function LeverEditor({ board, chart, dataset, words, sentence, word, change }: EditorProps) {
  const { list, index } = sentence.part!;
  const fitting = board.levers.filter((lever) => lever.dataset === chart.dataset);
  const set = (id: string) =>
    change((draft, draftBoard) => {
      let lever = id;
      if (id === made) {
        const fresh = pickLeverFor(dataset, draft.by, draftBoard.levers);
        draftBoard.levers.push(fresh);
        lever = fresh.id;
      }
      if (list === 'cues') draft.cues[index]!.condition.lever = lever;
      else if (list === 'touches') draft.touches[index]!.lever = lever;
    });
  return (
    <OptionList
      label="Lever"
      options={[
        ...fitting.map((lever) => ({
          value: lever.id,
          text: lever.name,
          note: `picks ${cutText(lever, words)}`,
        })),
        { value: made, text: 'a new lever', note: `picks ${cutText(chart.by, words)}` },
      ]}
      chosen={word.value as string}
      onChoose={set}
    />
  );
}

/** What clearing does is a word of the lever's: it is the same wherever the lever is touched. */
export function ClearingEditor({ board, chart, sentence, change }: EditorProps) {
  const id = chart.touches[sentence.part!.index]!.lever;
  return (
    <OptionList
      label="A click on empty ground"
      options={clearings.map((value) => ({ value, text: clearingText(value) }))}
      chosen={leverOf(board, id)?.clearing}
      onChoose={(clearing) =>
        change((_chart, draft) => {
          const lever = leverOf(draft, id);
          if (lever) lever.clearing = clearing;
        })
      }
    />
  );
}
