import { english } from '@sorvik/core/messages/locale';
import { counted } from '@sorvik/core/words/plural';
import { tell } from '../ui/tell';

interface Props {
  added: readonly string[];
  removed: readonly string[];
  /** How many lines are shown of each; the others are counted. */
  most?: number;
}

/** What one state of a board says and another does not, each line marked by a word, not by colour alone. */
export function ChangedLines({ added, removed, most = 8 }: Props) {
  const part = (lines: readonly string[], word: string) => [
    ...lines.slice(0, most).map((line) => (
      <li key={`${word}${line}`}>
        <b>{word}</b> {line}
      </li>
    )),
    ...(lines.length > most
      ? [
          <li key={`${word} more`}>
            {tell('bench.changedLines.more', { lines: counted(lines.length - most, 'line', english) })}
          </li>,
        ]
      : []),
  ];
  if (!added.length && !removed.length)
    return <p className="sv-none">{tell('bench.changedLines.onlyTheLayoutChanged')}</p>;
  return (
    <ul className="sv-changed-lines">
      {part(removed, 'removed')}
      {part(added, 'added')}
    </ul>
  );
}
