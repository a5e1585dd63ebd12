import type { Database } from '../db/client';
import type { Routes } from '../http/routes';
import { listOf } from '../http/schemas';
import { deletedDatasets, freeDataset } from './purge';

/** Datasets that were deleted: what they take, and giving it back. */
export function addDeletedDatasetRoutes(routes: Routes, database: Database): void {
  routes
    .add(
      {
        method: 'get',
        path: '/api/deleted-datasets',
        needs: 'person',
        summary: 'Datasets that were deleted and can come back, with the room they take',
        answers: { 200: listOf('DeletedDataset') },
      },
      async (c) => c.json(await routes.access.visible(c, 'dataset', await deletedDatasets(database), 'own')),
    )
    .add(
      {
        method: 'delete',
        path: '/api/deleted-datasets/:id',
        needs: { dataset: 'own' },
        summary: 'Remove a deleted dataset for good and free its room',
        noted: 'dataset-removed-for-good',
        answers: { 204: null },
      },
      async (c) => {
        await freeDataset(database, c.req.param('id')!);
        return c.body(null, 204);
      },
    );
}
