import { useAppSelector } from '../app/store';

const texts = {
  saved: 'Saved',
  waiting: 'Saving…',
  saving: 'Saving…',
  unreachable: 'Not saved, trying again',
  refused: 'Not saved',
} as const;

/** How far the board is saved, in a word. */
export function SaveState() {
  const status = useAppSelector((state) => state.board.status);
  const refusal = useAppSelector((state) => state.board.refusal);
  const theirs = useAppSelector((state) => state.board.theirs);
  // What is being tried is saved when it is kept.
  const trying = useAppSelector((state) => state.board.before !== null);
  const text = theirs
    ? 'Not saved: changed elsewhere'
    : trying && status === 'waiting'
      ? 'Editing…'
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
