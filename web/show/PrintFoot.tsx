import type { Board } from '@sorvik/core/board/board';
import { positionText } from '@sorvik/core/levers/position-text';
import { settledPosition } from '@sorvik/core/levers/settled-positions';
import { useAppSelector } from '../app/store';
import { boardWords } from '../board/board-words';
import { useKnownFacts } from '../levers/facts-context';

/** On paper only: where the levers were, and when that was. */
export function PrintFoot({ board }: { board: Board }) {
  const { facts } = useKnownFacts();
  const now = useAppSelector((state) => state.positions.committed);
  const words = boardWords(board, undefined);
  const held = board.levers.map((lever) => {
    const { position } = settledPosition(lever, now, facts);
    return `${lever.name}: ${positionText(lever, position, facts[lever.id], words)}`;
  });
  const day = new Intl.DateTimeFormat(words.locale.tag, { dateStyle: 'long' }).format(new Date());
  return (
    <footer className="sv-print-foot" data-part="print-foot">
      {[...held, day].join(' · ')}
    </footer>
  );
}
