import { Button, Table } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  useDeletedBoardsQuery,
  useDeletedDatasetsQuery,
  useFreeDatasetMutation,
  useRestoreBoardMutation,
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

/** Boards and datasets that were deleted: they can come back; datasets can give their room back at once. */
export function RecentlyDeleted() {
  const dispatch = useAppDispatch();
  const { data: deleted } = useDeletedDatasetsQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data: boards } = useDeletedBoardsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [restore] = useRestoreDatasetMutation();
  const [restoreBoard] = useRestoreBoardMutation();
  const [free] = useFreeDatasetMutation();
  const count = (deleted?.length ?? 0) + (boards?.length ?? 0);
  if (!count) return null;
  const done = (result: { error?: unknown }, text: string) =>
    dispatch(noticed({ text: result.error ? problemText(result.error) : text }));
  return (
    <details className="sv-deleted" data-part="deleted">
      <summary>Recently deleted: {count}</summary>
      <p className="sv-hint">They are removed for good 30 days after they were deleted.</p>
      <Table className="sv-datasets">
        <tbody>
          {boards?.map(({ id, title, deletedAt }) => (
            <tr key={`board ${id}`} data-deleted-board={id}>
              <td>{title}</td>
              <td>deleted {ago(deletedAt)}</td>
              <td className="text-end sv-where-wide">board</td>
              <td />
              <td className="text-end sv-actions">
                <Button
                  size="sm"
                  variant="outline-secondary"
                  aria-label={`Restore ${title}`}
                  onClick={async () => done(await restoreBoard(id), `"${title}" is back.`)}
                >
                  Restore
                </Button>
              </td>
            </tr>
          ))}
          {deleted?.map(({ id, name, rows, deletedAt, bytes }) => (
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
