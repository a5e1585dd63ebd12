import { Button, Table } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  useDeletedDatasetsQuery,
  useFreeDatasetMutation,
  useRestoreDatasetMutation,
} from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch } from '../app/store';

const day = 86_400_000;

/** How long ago something was: "today", "yesterday", "3 days ago". */
const ago = (time: string) =>
  new Intl.RelativeTimeFormat('en', { numeric: 'auto' }).format(
    -Math.floor((Date.now() - Date.parse(time)) / day),
    'day',
  );
const megabytes = (bytes: number) => `${Math.max(0.1, bytes / 1e6).toFixed(1)} MB`;

/** Datasets that were deleted: they can come back, or give their room back at once. */
export function DeletedDatasets() {
  const dispatch = useAppDispatch();
  const { data: deleted } = useDeletedDatasetsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [restore] = useRestoreDatasetMutation();
  const [free] = useFreeDatasetMutation();
  if (!deleted?.length) return null;
  const done = (result: { error?: unknown }, text: string) =>
    dispatch(noticed({ text: result.error ? problemText(result.error) : text }));
  return (
    <details className="sv-deleted" data-part="deleted">
      <summary>Recently deleted: {deleted.length}</summary>
      <p className="sv-hint">They are removed for good 30 days after they were deleted.</p>
      <Table className="sv-datasets">
        <tbody>
          {deleted.map(({ id, name, rows, deletedAt, bytes }) => (
            <tr key={id}>
              <td>{name}</td>
              <td>deleted {ago(deletedAt)}</td>
              <td className="text-end sv-where-wide">{rows.toLocaleString('en')} rows</td>
              <td className="text-end">{megabytes(bytes)}</td>
              <td className="text-end sv-actions">
                <Button
                  size="sm"
                  variant="outline-secondary"
                  onClick={async () => done(await restore(id), `"${name}" is back.`)}
                >
                  Restore
                </Button>{' '}
                <button
                  type="button"
                  className="btn btn-sm btn-quiet"
                  aria-label={`Remove ${name} for good`}
                  onClick={async () => done(await free(id), `"${name}" is removed for good.`)}
                >
                  Remove for good
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </details>
  );
}
