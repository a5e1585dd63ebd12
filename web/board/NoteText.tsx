import { type Board, leverOf } from '@sorvik/core/board/board';
import { positionText } from '@sorvik/core/levers/position-text';
import { settledPosition } from '@sorvik/core/levers/settled-positions';
import { titleParts } from '@sorvik/core/words/title-parts';
import Markdown from 'react-markdown';
import { useAppSelector } from '../app/store';
import { useKnownFacts } from '../levers/facts-context';
import { boardWords } from './board-words';

/** A text as Markdown has it that shows just its letters. */
const plainly = (text: string) => text.replace(/[\\`*_{}[\]()#+\-.!|<>~]/g, '\\$&');

/** A note as it reads now: Markdown without HTML, in which live words say what levers hold. */
export default function NoteText({ board, text }: { board: Board; text: string }) {
  const { facts } = useKnownFacts();
  const live = useAppSelector(({ positions }) =>
    titleParts(text)
      .map((part) => {
        if (typeof part === 'string') return part;
        const lever = leverOf(board, part.lever);
        if (!lever) return `{${part.lever}}`;
        const { position } = settledPosition(lever, positions.now, facts);
        return plainly(positionText(lever, position, facts[lever.id], boardWords(board, undefined)));
      })
      .join(''),
  );
  return <Markdown>{live}</Markdown>;
}
