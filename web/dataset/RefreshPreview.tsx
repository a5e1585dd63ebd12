import type { RefreshPreview as Preview } from '@sorvik/core/board/api-types';
import { useEffect } from 'react';
import { Button } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useCancelImportMutation, useRefreshPreviewQuery, useTakeRowsMutation } from '../app/editing-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { Reach } from './Reach';
import { typeNames } from './TypeWord';

const whole = (count: number) => count.toLocaleString('en');

/** How many rows there are, come, go, and will be. */
function Balance({ rows }: Pick<Preview, 'rows'>) {
  const figures = [
    [tell('dataset.refresh.now'), whole(rows.now)],
    [tell('dataset.refresh.out'), rows.out ? `−${whole(rows.out)}` : '0'],
    [tell('dataset.refresh.in'), rows.in ? `+${whole(rows.in)}` : '0'],
    [tell('dataset.refresh.after'), whole(rows.after)],
  ];
  return (
    <dl className="sv-balance">
      {figures.map(([name, figure]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{figure}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What else than rows would change, field by field. */
function Changes({ preview }: { preview: Preview }) {
  const { mode, added, missing, retyped, values, rejected } = preview;
  return (
    <ul className="sv-changes">
      {mode === 'replace'
        ? missing.map(({ name, reach }) => (
            <li key={`missing ${name}`}>
              {tell('dataset.refresh.fieldGoes', { name })}
              <Reach reach={reach} />
            </li>
          ))
        : missing.length > 0 && (
            <li>
              {tell('dataset.refresh.fieldsAreEmpty', {
                n: missing.length,
                fields: missing.map(({ name }) => name).join(', '),
              })}
            </li>
          )}
      {retyped.map(({ name, from, to, reach }) => (
        <li key={`retyped ${name}`}>
          {tell('dataset.refresh.fieldIsOfAnotherType', { name, from: typeNames[from], to: typeNames[to] })}
          <Reach reach={reach} />
        </li>
      ))}
      {added.length > 0 && (
        <li>{tell('dataset.refresh.newFields', { n: added.length, fields: added.join(', ') })}</li>
      )}
      {values.map(({ name, count, examples, reach }) => (
        <li key={`values ${name}`}>
          {tell('dataset.refresh.newValues', {
            name,
            n: count,
            values: examples.join(', '),
            more: count - examples.length,
          })}
          <Reach reach={reach} />
        </li>
      ))}
      {rejected > 0 && <li>{tell('dataset.refresh.skipped', { n: rejected })}</li>}
    </ul>
  );
}

/** What the rows that wait would change, to be taken or given up. */
export function RefreshPreview({
  id,
  onTaken,
  onLost,
}: {
  id: string;
  onTaken(): void;
  /** The server where they waited has gone. */
  onLost?: (() => void) | undefined;
}) {
  const { data: preview, error } = useRefreshPreviewQuery(id);
  const [take, taking] = useTakeRowsMutation();
  const isGone = [error, taking.error].some(
    (each) => (each as { status?: unknown } | undefined)?.status === 404,
  );
  const lost = isGone && onLost !== undefined;
  useEffect(() => {
    if (lost) onLost();
  }, [lost, onLost]);
  const [cancel] = useCancelImportMutation();
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!preview) return <p className="sv-loading">{tell('dataset.refresh.comparing')}</p>;
  const { mode, rows, refused } = preview;
  const nothingElse =
    !preview.missing.length &&
    !preview.retyped.length &&
    !preview.added.length &&
    !preview.values.length &&
    !preview.rejected;
  return (
    <div data-part="preview">
      <Balance rows={rows} />
      {refused && <Problem>{refused}</Problem>}
      {taking.error && <Problem role="alert">{problemText(taking.error)}</Problem>}
      <div className="sv-row">
        <Button
          size="sm"
          disabled={refused !== undefined || taking.isLoading}
          onClick={async () => {
            const result = await take(id);
            if ('data' in result) onTaken();
          }}
        >
          {taking.isLoading
            ? tell('dataset.refresh.taking')
            : tell('dataset.refresh.take', { mode, n: rows.in })}
        </Button>
        <Button size="sm" variant="outline-secondary" disabled={taking.isLoading} onClick={() => cancel(id)}>
          {tell('dataset.refresh.giveUp')}
        </Button>
      </div>
      {nothingElse ? (
        <p className="sv-hint">{tell('dataset.refresh.nothingElse')}</p>
      ) : (
        <Changes preview={preview} />
      )}
    </div>
  );
}
