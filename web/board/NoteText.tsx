import type { Board } from '@sorvik/core/board/board';
import { heldText } from '@sorvik/core/levers/levers-held';
import { noteText } from '@sorvik/core/text/note-text';
import Markdown from 'react-markdown';
import { useAppSelector } from '../app/store';
import { useKnownFacts } from '../levers/facts-context';
import { boardWords } from './board-words';

/** A note as it reads now: Markdown without HTML, in which live words say what levers hold. */
export default function NoteText({ board, text }: { board: Board; text: string }) {
  const { facts } = useKnownFacts();
  const live = useAppSelector(({ positions }) =>
    noteText(text, heldText(board, { positions: positions.now, facts }, boardWords(board, undefined))),
  );
  return <Markdown>{live}</Markdown>;
}
