import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { english } from '@sorvik/core/messages/locale';
import { boardDoubts } from '@sorvik/core/text/doubts';
import { counted } from '@sorvik/core/words/plural';
import { useMemo } from 'react';
import { deskWords } from '../board/board-words';
import { useKnownFacts } from '../levers/facts-context';
import { DropButton } from '../ui/DropButton';
import { tell } from '../ui/tell';

interface Props {
  board: Board;
  datasets: DatasetView[] | undefined;
  onLever(id: string): void;
  onChart(id: string): void;
}

/** One quiet list of what is wrong or doubtful on the board, each with the way to its place. */
export function Doubts({ board, datasets, onLever, onChart }: Props) {
  const { facts, ready, problems } = useKnownFacts();
  const doubts = useMemo(() => {
    if (!ready || !datasets) return [];
    const wordsOf = (dataset: string) =>
      deskWords(
        board,
        datasets.find(({ id }) => id === dataset),
      );
    return [
      ...board.levers.flatMap((lever) =>
        problems[lever.id] ? [{ text: `${lever.name}: ${problems[lever.id]}`, lever: lever.id }] : [],
      ),
      ...boardDoubts(board, facts, wordsOf),
    ];
  }, [board, datasets, facts, ready, problems]);
  if (!doubts.length) return null;
  return (
    <DropButton
      label={counted(doubts.length, 'warning', english)}
      title={tell('bench.doubts.warnings')}
      placement="bottom-end"
      className="sv-doubts"
    >
      {(close) => (
        <ul className="sv-doubt-list">
          {doubts.map((doubt) => (
            <li key={`${doubt.lever ?? ''}${doubt.text}`}>
              <button
                type="button"
                onClick={() => {
                  if (doubt.lever) onLever(doubt.lever);
                  else if ('chart' in doubt && doubt.chart) onChart(doubt.chart);
                  close();
                }}
              >
                {doubt.text}
              </button>
            </li>
          ))}
        </ul>
      )}
    </DropButton>
  );
}
