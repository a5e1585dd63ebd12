import type { FieldReach } from '@sorvik/core/board/api-types';
import { Link } from 'react-router';
import { tell } from '../ui/tell';

/** The boards that name a field, and what they say with it. */
export function Reach({ reach }: { reach: readonly FieldReach[] }) {
  if (!reach.length) return null;
  return (
    <details className="sv-field-reach">
      <summary>
        {tell('dataset.refresh.reaches', {
          n: reach.length,
          boards: reach.map(({ title }) => title).join(', '),
        })}
      </summary>
      <ul>
        {reach.map(({ board, title, lines }) => (
          <li key={board}>
            <Link to={`/boards/${board}`}>{title}</Link>
            {lines.length > 0 && (
              <ul>
                {lines.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
