import { leverOf } from '@sorvik/core/board/board';
import type { Touch } from '@sorvik/core/board/chart';
import { pickLeverFor } from '@sorvik/core/edit/defaults';
import { leverWith } from '@sorvik/core/edit/offers/lever-with';
import { leverCan } from '@sorvik/core/levers/abilities';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { canTouch } from '@sorvik/core/pipeline/chart-rules';
import { clearingText } from '@sorvik/core/text/touch-sentence';
import { dimensionText } from '@sorvik/core/words/dimension-text';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import { partOf, setWord } from './at-path';
import type { EditorProps } from './editor-kind';

const made = '+';

/** What a lever is and stands on: "a list to pick from, route". */
export const leverNote = (lever: Lever, words: Vocabulary) => {
  const source = kindOf(lever).source?.(lever);
  return source ? `${kindOf(lever).noun}, ${dimensionText(source, words)}` : kindOf(lever).noun;
};

/** Which lever the sentence reads or moves: those that can do what is asked of them here. */
export function LeverEditor({ board, chart, dataset, words, sentence, word, change }: EditorProps) {
  const { ability } = word;
  const fitting = board.levers.filter((lever) =>
    ability ? leverCan(lever, ability) : canTouch(chart, lever) || lever.id === word.value,
  );
  const set = (chosen: string) =>
    change((draft, draftBoard) => {
      let id = chosen;
      if (chosen === made) {
        const fresh = ability
          ? leverWith(ability, draft, dataset, draftBoard.levers)
          : pickLeverFor(dataset, draft.by, draftBoard.levers);
        draftBoard.levers.push(fresh);
        id = fresh.id;
      }
      setWord(draft, sentence, word, id);
    });
  return (
    <OptionList
      label={tell('bench.leverEditors.lever')}
      options={[
        ...fitting.map((lever) => ({ value: lever.id, text: lever.name, note: leverNote(lever, words) })),
        { value: made, text: tell('bench.leverEditors.aNewLever') },
        ...(word.path?.[0] === 'when'
          ? [
              {
                value: '',
                text: tell('bench.leverEditors.always'),
                note: tell('bench.leverEditors.removesWhileIsOn'),
              },
            ]
          : []),
      ]}
      chosen={word.value as string}
      onChoose={(id) => (id === '' ? change((draft) => setWord(draft, sentence, word, undefined)) : set(id))}
    />
  );
}

/** Which end of a ranking: fixed, or named by a lever. */
export function SideEditor({ board, chart, dataset, words, sentence, word, change }: EditorProps) {
  const value = word.value as string | { lever: string };
  const levers = board.levers.filter((lever) => leverCan(lever, 'side'));
  return (
    <OptionList
      label={tell('bench.leverEditors.side')}
      options={[
        { value: 'highest', text: tell('bench.leverEditors.highest') },
        { value: 'lowest', text: tell('bench.leverEditors.lowest') },
        ...levers.map((lever) => ({
          value: `lever ${lever.id}`,
          text: lever.name,
          note: leverNote(lever, words),
        })),
        { value: made, text: tell('bench.leverEditors.aNewLever') },
      ]}
      chosen={typeof value === 'string' ? value : `lever ${value.lever}`}
      onChoose={(chosen) =>
        change((draft, draftBoard) => {
          if (chosen === made) {
            const fresh = leverWith('side', chart, dataset, draftBoard.levers);
            draftBoard.levers.push(fresh);
            setWord(draft, sentence, word, { lever: fresh.id });
          } else
            setWord(draft, sentence, word, chosen.startsWith('lever ') ? { lever: chosen.slice(6) } : chosen);
        })
      }
    />
  );
}

/** What clearing does is a word of the lever's: it is the same wherever the lever is touched. */
export function ClearingEditor({ board, chart, sentence, change }: EditorProps) {
  const { lever: id } = partOf<Touch>(chart, sentence);
  const lever = leverOf(board, id);
  return (
    <OptionList
      label={tell('bench.leverEditors.whenCleared')}
      options={(lever ? kindOf(lever).clearings : []).map((value) => ({ value, text: clearingText(value) }))}
      chosen={lever?.clearing}
      onChoose={(clearing) =>
        change((_chart, draft) => {
          const target = leverOf(draft, id);
          if (target) target.clearing = clearing;
        })
      }
    />
  );
}
