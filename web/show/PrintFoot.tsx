import type { Board } from '@sorvik/core/board/board';
import { leversHeld } from '@sorvik/core/levers/levers-held';
import { useAppSelector } from '../app/store';
import { boardWords } from '../board/board-words';
import { useKnownFacts } from '../levers/facts-context';

/** On paper only: where the levers were, and when that was. */
export function PrintFoot({ board }: { board: Board }) {
  const { facts } = useKnownFacts();
  const now = useAppSelector((state) => state.positions.committed);
  const words = boardWords(board, undefined);
  const held = leversHeld(board, { positions: now, facts }, words);
  const day = new Intl.DateTimeFormat(words.locale.tag, { dateStyle: 'long' }).format(new Date());
  return (
    <footer className="sv-print-foot" data-part="print-foot">
      {[...held, day].join(' · ')}
    </footer>
  );
}
