import { useAppSelector } from '../app/store';
import { tell } from '../ui/tell';

const texts = {
  saved: tell('bench.saveState.saved'),
  waiting: tell('bench.saveState.saving'),
  saving: tell('bench.saveState.saving'),
  unreachable: tell('bench.saveState.notSavedTryingAgain'),
  refused: tell('bench.saveState.notSaved'),
} as const;

/** How far the board is saved, in a word. */
export function SaveState() {
  const status = useAppSelector((state) => state.board.status);
  const refusal = useAppSelector((state) => state.board.refusal);
  const theirs = useAppSelector((state) => state.board.theirs);
  // What is being tried is saved when it is kept.
  const trying = useAppSelector((state) => state.board.before !== null);
  const text = theirs
    ? tell('bench.saveState.notSavedChangedElsewhere')
    : trying && status === 'waiting'
      ? tell('bench.saveState.editing')
      : refusal
        ? `${texts[status]}: ${refusal}`
        : texts[status];
  return (
    <output
      className="sv-save-state"
      data-part="save-state"
      data-status={theirs ? 'conflict' : status}
      title={text}
    >
      {text}
    </output>
  );
}
