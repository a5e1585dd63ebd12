import { createApi, fetchBaseQuery, retry } from '@reduxjs/toolkit/query/react';
import type { Board } from '@sorvik/core/board/board';
import type { FileNeed } from '@sorvik/core/board/board-file';
import type { Cube } from '@sorvik/core/cube/cube';
import { cubeFromArrow } from '@sorvik/core/cube/cube-from-arrow';
import type {
  BoardVersion,
  DatasetView,
  DeletedDataset,
  FieldShape,
  FieldUses,
  FieldValues,
  ImportView,
  Reject,
  RetypePreview,
  SavedBoard,
  ShownBoard,
} from '@sorvik/core/exchange';
import type { FieldType, KeyValue } from '@sorvik/core/values';

export interface RejectsPage {
  total: number;
  rejects: Reject[];
}

/**
 * Cubes by their address. They are typed arrays, which have no place in the store; the store only knows that an
 * address has been fetched, and drops the cube here when nothing shows it any more.
 */
const cubes = new Map<string, Cube>();
export const cubeAt = (address: string | undefined): Cube | undefined =>
  address ? cubes.get(address) : undefined;

/** What went wrong, from a problem document or from a request that got no answer. */
export function problemText(error: unknown): string {
  const { data, status } = (error ?? {}) as { data?: { detail?: string }; status?: unknown };
  if (data?.detail) return data.detail;
  return status === 'FETCH_ERROR'
    ? 'The server does not answer. Is it still running?'
    : 'Something went wrong. Try again.';
}

/** Tries, and the time between them, ms: a database that is started again takes a second or two. */
const tries = 6;
const between = 700;

/** Reads again while the server says that its database is not there; what changes something is sent once. */
const patientQuery = retry(fetchBaseQuery({ baseUrl: '/api' }), {
  retryCondition: (error, _args, { attempt, baseQueryApi }) =>
    (error as { status?: unknown }).status === 503 && baseQueryApi.type === 'query' && attempt < tries,
  backoff: (attempt) => new Promise((go) => setTimeout(go, between * Math.min(3, attempt))),
});

export const api = createApi({
  reducerPath: 'api',
  baseQuery: patientQuery,
  tagTypes: ['Board', 'Dataset', 'Version', 'Deleted'],
  endpoints: (build) => ({
    boards: build.query<SavedBoard[], void>({ query: () => 'boards', providesTags: ['Board'] }),
    board: build.query<SavedBoard, string>({ query: (id) => `boards/${id}`, keepUnusedDataFor: 0 }),
    /** What viewers see. */
    shownBoard: build.query<ShownBoard, string>({
      query: (id) => `boards/${id}/shown`,
      keepUnusedDataFor: 0,
    }),
    versions: build.query<BoardVersion[], string>({
      query: (id) => `boards/${id}/versions`,
      keepUnusedDataFor: 0,
      providesTags: ['Version'],
    }),
    /** A state of a board that never changes. */
    version: build.query<ShownBoard, { id: string; revision: number }>({
      query: ({ id, revision }) => `boards/${id}/versions/${revision}`,
    }),
    nameVersion: build.mutation<void, { id: string; revision: number; name: string }>({
      query: ({ id, revision, name }) => ({
        url: `boards/${id}/versions/${revision}`,
        method: 'PATCH',
        body: { name },
      }),
      invalidatesTags: ['Version'],
    }),
    publish: build.mutation<SavedBoard, { id: string; revision: number }>({
      query: ({ id, revision }) => ({ url: `boards/${id}/publish`, method: 'POST', body: { revision } }),
      invalidatesTags: ['Board', 'Version'],
    }),
    scratch: build.mutation<SavedBoard, string>({
      query: (id) => ({ url: `boards/${id}/scratch`, method: 'POST' }),
      invalidatesTags: ['Board'],
    }),
    unfold: build.mutation<SavedBoard, { id: string; scratch: string; revision: number }>({
      query: ({ id, scratch, revision }) => ({
        url: `boards/${id}/unfold`,
        method: 'POST',
        body: { scratch, revision },
      }),
      invalidatesTags: ['Board', 'Version'],
    }),
    deletedDatasets: build.query<DeletedDataset[], void>({
      query: () => 'deleted-datasets',
      providesTags: ['Deleted'],
    }),
    freeDataset: build.mutation<void, string>({
      query: (id) => ({ url: `deleted-datasets/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Deleted'],
    }),
    foldBack: build.mutation<SavedBoard, { id: string; anyway: boolean }>({
      query: ({ id, anyway }) => ({ url: `boards/${id}/fold`, method: 'POST', body: { anyway } }),
      invalidatesTags: ['Board'],
    }),
    fileNeeds: build.mutation<{ title: string; needs: FileNeed[] }, unknown>({
      query: (file) => ({ url: 'board-files/needs', method: 'POST', body: { file } }),
    }),
    importFile: build.mutation<
      SavedBoard,
      { file: unknown; datasets: Record<string, { dataset: string; fields: Record<string, string> }> }
    >({
      query: (body) => ({ url: 'board-files', method: 'POST', body }),
      invalidatesTags: ['Board', 'Dataset'],
    }),
    importZip: build.mutation<SavedBoard, File>({
      query: (file) => ({
        url: 'board-files/zip',
        method: 'POST',
        headers: { 'content-type': 'application/zip' },
        body: file,
      }),
      invalidatesTags: ['Board', 'Dataset'],
    }),
    createBoard: build.mutation<SavedBoard, Board>({
      query: (document) => ({ url: 'boards', method: 'POST', body: { document } }),
      invalidatesTags: ['Board', 'Dataset'],
    }),
    duplicateBoard: build.mutation<SavedBoard, string>({
      query: (id) => ({ url: `boards/${id}/duplicate`, method: 'POST' }),
      invalidatesTags: ['Board'],
    }),
    patchBoard: build.mutation<
      { revision: number },
      { id: string; revision: number; patch: unknown[]; key?: string }
    >({
      query: ({ id, revision, patch, key = crypto.randomUUID() }) => ({
        url: `boards/${id}`,
        method: 'PATCH',
        headers: {
          'if-match': `"${revision}"`,
          'idempotency-key': key,
          'content-type': 'application/json-patch+json',
        },
        body: JSON.stringify(patch),
      }),
      invalidatesTags: ['Board'],
    }),
    deleteBoard: build.mutation<void, string>({
      query: (id) => ({ url: `boards/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Board'],
    }),
    restoreBoard: build.mutation<SavedBoard, string>({
      query: (id) => ({ url: `boards/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['Board'],
    }),

    datasets: build.query<DatasetView[], void>({ query: () => 'datasets', providesTags: ['Dataset'] }),
    dataset: build.query<DatasetView, string>({ query: (id) => `datasets/${id}`, providesTags: ['Dataset'] }),
    renameDataset: build.mutation<DatasetView, { id: string; name: string }>({
      query: ({ id, name }) => ({ url: `datasets/${id}`, method: 'PATCH', body: { name } }),
      invalidatesTags: ['Dataset'],
    }),
    deleteDataset: build.mutation<void, string>({
      query: (id) => ({ url: `datasets/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Deleted', 'Dataset'],
    }),
    restoreDataset: build.mutation<DatasetView, string>({
      query: (id) => ({ url: `datasets/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['Deleted', 'Dataset'],
    }),
    renameField: build.mutation<DatasetView, { id: string; key: string; name: string }>({
      query: ({ id, key, name }) => ({
        url: `datasets/${id}/fields/${key}`,
        method: 'PATCH',
        body: { name },
      }),
      invalidatesTags: ['Dataset'],
    }),
    addField: build.mutation<DatasetView, { id: string; name: string; formula: string }>({
      query: ({ id, ...body }) => ({ url: `datasets/${id}/fields`, method: 'POST', body }),
      invalidatesTags: ['Dataset'],
    }),
    changeField: build.mutation<DatasetView, { id: string; key: string; name: string; formula: string }>({
      query: ({ id, key, ...body }) => ({ url: `datasets/${id}/fields/${key}`, method: 'PATCH', body }),
      invalidatesTags: ['Dataset'],
    }),
    dropField: build.mutation<DatasetView, { id: string; key: string }>({
      query: ({ id, key }) => ({ url: `datasets/${id}/fields/${key}`, method: 'DELETE' }),
      invalidatesTags: ['Dataset'],
    }),
    fieldUses: build.query<FieldUses, { id: string; key: string }>({
      query: ({ id, key }) => `datasets/${id}/fields/${key}/uses`,
      keepUnusedDataFor: 0,
    }),
    fieldShape: build.query<FieldShape, { id: string; key: string; version: number }>({
      query: ({ id, key }) => `datasets/${id}/fields/${key}/shape`,
    }),
    retypePreview: build.query<RetypePreview, { id: string; key: string; type: FieldType; version: number }>({
      query: ({ id, key, type }) => `datasets/${id}/fields/${key}/retype?type=${type}`,
    }),
    retype: build.mutation<DatasetView, { id: string; key: string; type: FieldType }>({
      query: ({ id, key, type }) => ({
        url: `datasets/${id}/fields/${key}/retype`,
        method: 'POST',
        body: { type },
      }),
      invalidatesTags: ['Dataset'],
    }),
    rows: build.query<{ rows: KeyValue[][] }, { id: string; offset: number; limit: number; version: number }>(
      {
        query: ({ id, offset, limit }) => `datasets/${id}/rows?offset=${offset}&limit=${limit}`,
      },
    ),
    fieldValues: build.query<
      FieldValues,
      { id: string; key: string; search: string; offset: number; limit: number; version: number }
    >({
      query: ({ id, key, search, offset, limit }) => ({
        url: `datasets/${id}/fields/${key}/values`,
        params: { offset, limit, ...(search ? { search } : {}) },
      }),
    }),
    absentValues: build.mutation<{ absent: KeyValue[] }, { id: string; key: string; values: KeyValue[] }>({
      query: ({ id, key, values }) => ({
        url: `datasets/${id}/fields/${key}/absent`,
        method: 'POST',
        body: { values },
      }),
    }),
    rejects: build.query<RejectsPage, string>({ query: (id) => `datasets/${id}/rejects?limit=200` }),

    importState: build.query<ImportView, string>({ query: (id) => `imports/${id}`, keepUnusedDataFor: 0 }),
    answerImport: build.mutation<ImportView, { id: string; answers: Record<string, string> }>({
      query: ({ id, answers }) => ({ url: `imports/${id}/answers`, method: 'POST', body: { answers } }),
    }),
    cancelImport: build.mutation<void, string>({
      query: (id) => ({ url: `imports/${id}`, method: 'DELETE' }),
    }),

    /** Fetches a cube; the answer is its address, for `cubeAt`. */
    cube: build.query<string, { dataset: string; query: string }>({
      query: ({ dataset, query }) => ({
        url: `datasets/${dataset}/cube?${query}`,
        responseHandler: async (response) => {
          if (!response.ok) return response.json();
          const address = `${dataset}?${query}`;
          cubes.set(address, cubeFromArrow(new Uint8Array(await response.arrayBuffer())));
          return address;
        },
      }),
      async onCacheEntryAdded({ dataset, query }, { cacheEntryRemoved }) {
        await cacheEntryRemoved;
        cubes.delete(`${dataset}?${query}`);
      },
    }),
  }),
});

export const {
  useBoardsQuery,
  useBoardQuery,
  useShownBoardQuery,
  useVersionsQuery,
  useVersionQuery,
  useLazyVersionQuery,
  useNameVersionMutation,
  usePublishMutation,
  useScratchMutation,
  useDeletedDatasetsQuery,
  useFoldBackMutation,
  useFreeDatasetMutation,
  useUnfoldMutation,
  useFileNeedsMutation,
  useImportFileMutation,
  useImportZipMutation,
  useCreateBoardMutation,
  useDuplicateBoardMutation,
  useDeleteBoardMutation,
  useRestoreBoardMutation,
  usePatchBoardMutation,
  useDatasetsQuery,
  useDatasetQuery,
  useRenameDatasetMutation,
  useDeleteDatasetMutation,
  useRestoreDatasetMutation,
  useRenameFieldMutation,
  useAddFieldMutation,
  useChangeFieldMutation,
  useDropFieldMutation,
  useFieldUsesQuery,
  useFieldShapeQuery,
  useFieldValuesQuery,
  useLazyFieldValuesQuery,
  useAbsentValuesMutation,
  useRetypePreviewQuery,
  useRetypeMutation,
  useRowsQuery,
  useRejectsQuery,
  useImportStateQuery,
  useAnswerImportMutation,
  useCancelImportMutation,
  useCubeQuery,
} = api;
