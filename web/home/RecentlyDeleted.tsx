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
import { tell } from '../ui/tell';

const day = 86_400_000;

/** How long ago something was: "today", "yesterday", "3 days ago". */
const ago = (time: string) =>
  new Intl.RelativeTimeFormat('en', { numeric: 'auto' }).format(
    -Math.floor((Date.now() - Date.parse(time)) / day),
    'day',
  );
const megabytes = (bytes: number) =>
  tell('home.recentlyDeleted.megabytes', { megabytes: Math.max(0.1, bytes / 1e6).toFixed(1) });

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
      <summary>{tell('home.recentlyDeleted.recentlyDeletedCount', { count })}</summary>
      <p className="sv-hint">{tell('home.recentlyDeleted.theyAreRemovedForGood')}</p>
      <Table className="sv-datasets">
        <tbody>
          {boards?.map(({ id, title, deletedAt }) => (
            <tr key={`board ${id}`} data-deleted-board={id}>
              <td>{title}</td>
              <td>{tell('home.recentlyDeleted.deletedDeletedat', { deletedAt: ago(deletedAt) })}</td>
              <td className="text-end sv-where-wide">{tell('home.recentlyDeleted.board')}</td>
              <td />
              <td className="text-end sv-actions">
                <Button
                  size="sm"
                  variant="outline-secondary"
                  aria-label={tell('home.recentlyDeleted.restoreTitle', { title })}
                  onClick={async () =>
                    done(await restoreBoard(id), tell('home.recentlyDeleted.titleIsBack', { title }))
                  }
                >
                  {tell('home.recentlyDeleted.restore')}
                </Button>
              </td>
            </tr>
          ))}
          {deleted?.map(({ id, name, rows, deletedAt, bytes }) => (
            <tr key={id}>
              <td>{name}</td>
              <td>{tell('home.recentlyDeleted.deletedDeletedat', { deletedAt: ago(deletedAt) })}</td>
              <td className="text-end sv-where-wide">{tell('home.recentlyDeleted.rowsRows', { rows })}</td>
              <td className="text-end">{megabytes(bytes)}</td>
              <td className="text-end sv-actions">
                <Button
                  size="sm"
                  variant="outline-secondary"
                  onClick={async () =>
                    done(await restore(id), tell('home.recentlyDeleted.nameIsBack', { name }))
                  }
                >
                  {tell('home.recentlyDeleted.restore')}
                </Button>{' '}
                <button
                  type="button"
                  className="btn btn-sm btn-quiet"
                  aria-label={tell('home.recentlyDeleted.removeNameForGood', { name })}
                  onClick={async () =>
                    done(await free(id), tell('home.recentlyDeleted.nameIsRemovedForGood', { name }))
                  }
                >
                  {tell('home.recentlyDeleted.removeForGood')}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </details>
  );
}
