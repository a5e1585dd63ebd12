import type {
  BoardVersion,
  ConnectionView,
  DataChange,
  DatasetView,
  DataVersion,
  DeletedBoard,
  DeletedDataset,
  FieldShape,
  FieldUses,
  ImportView,
  LookupPreview,
  PushToken,
  RefreshMode,
  RefreshPreview,
  Reject,
  RemoteTable,
  RemoteTableView,
  RetypePreview,
  SavedBoard,
  ScheduleView,
  ShownBoard,
} from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Lookup } from '@sorvik/core/data/dataset';
import type { FieldType, KeyValue } from '@sorvik/core/data/values';
import type { FileNeed } from '@sorvik/core/edit/board-file';
import { api } from './api';

/** What a form says of a connection; a password that is left out stays what it is. */
export type ConnectionGiven = Omit<ConnectionView, 'id' | 'datasets'> & { password?: string };

/** Which rows of another dataset are looked up. */
export type LookupKeys = Pick<Lookup, 'dataset' | 'on' | 'from'>;

export interface RejectsPage {
  total: number;
  rejects: Reject[];
}

/** What is asked by those who make boards and keep datasets; a page that only shows a board does without. */
export const editingApi = api.injectEndpoints({
  endpoints: (build) => ({
    boards: build.query<SavedBoard[], void>({ query: () => 'boards', providesTags: ['Board'] }),
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
    deletedBoards: build.query<DeletedBoard[], void>({
      query: () => 'deleted-boards',
      providesTags: ['Board'],
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
    lookupPreview: build.query<LookupPreview, { id: string } & LookupKeys>({
      query: ({ id, ...body }) => ({ url: `datasets/${id}/lookups/preview`, method: 'POST', body }),
      keepUnusedDataFor: 0,
    }),
    addLookups: build.mutation<
      DatasetView,
      { id: string; fields: { field: string; name: string }[] } & LookupKeys
    >({
      query: ({ id, ...body }) => ({ url: `datasets/${id}/lookups`, method: 'POST', body }),
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
    rejects: build.query<RejectsPage, string>({ query: (id) => `datasets/${id}/rejects?limit=200` }),
    connections: build.query<ConnectionView[], void>({
      query: () => 'connections',
      providesTags: ['Connection', 'Dataset'],
    }),
    addConnection: build.mutation<ConnectionView, ConnectionGiven>({
      query: (body) => ({ url: 'connections', method: 'POST', body }),
      invalidatesTags: ['Connection'],
    }),
    changeConnection: build.mutation<ConnectionView, ConnectionGiven & { id: string }>({
      query: ({ id, ...body }) => ({ url: `connections/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Connection', 'Dataset'],
    }),
    removeConnection: build.mutation<void, string>({
      query: (id) => ({ url: `connections/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Connection', 'Deleted'],
    }),
    remoteTables: build.query<RemoteTable[], string>({
      query: (id) => `connections/${id}/tables`,
      keepUnusedDataFor: 0,
      providesTags: ['Connection'],
    }),
    remoteTable: build.query<RemoteTableView, { id: string; schema: string; table: string }>({
      query: ({ id, schema, table }) =>
        `connections/${id}/tables/${encodeURIComponent(schema)}/${encodeURIComponent(table)}`,
      keepUnusedDataFor: 0,
    }),
    placeTable: build.mutation<DatasetView, { id: string; schema: string; table: string; name: string }>({
      query: ({ id, ...body }) => ({ url: `connections/${id}/datasets`, method: 'POST', body }),
      invalidatesTags: ['Dataset'],
    }),
    lookAgain: build.mutation<DatasetView, string>({
      query: (id) => ({ url: `datasets/${id}/look`, method: 'POST' }),
      invalidatesTags: ['Dataset'],
    }),
    importState: build.query<ImportView, string>({
      query: (id) => `imports/${id}`,
      keepUnusedDataFor: 0,
      providesTags: ['Import'],
    }),
    answerImport: build.mutation<ImportView, { id: string; answers: Record<string, string> }>({
      query: ({ id, answers }) => ({ url: `imports/${id}/answers`, method: 'POST', body: { answers } }),
    }),
    cancelImport: build.mutation<void, string>({
      query: (id) => ({ url: `imports/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Import'],
    }),
    /** Fetches new rows from an address. */
    copyTable: build.mutation<ImportView, string>({
      query: (id) => ({ url: `datasets/${id}/copies`, method: 'POST' }),
    }),
    fetchRows: build.mutation<ImportView, { id: string; address: string; mode: RefreshMode; by?: string }>({
      query: ({ id, ...body }) => ({ url: `datasets/${id}/refreshes/address`, method: 'POST', body }),
    }),
    setSchedule: build.mutation<
      ScheduleView,
      { id: string; address: string; mode: RefreshMode; by?: string; cadence: string; zone: string }
    >({
      query: ({ id, ...body }) => ({ url: `datasets/${id}/schedule`, method: 'PUT', body }),
      invalidatesTags: ['Dataset'],
    }),
    runSchedule: build.mutation<ScheduleView, string>({
      query: (id) => ({ url: `datasets/${id}/schedule/run`, method: 'POST' }),
      invalidatesTags: ['Dataset'],
    }),
    removeSchedule: build.mutation<void, string>({
      query: (id) => ({ url: `datasets/${id}/schedule`, method: 'DELETE' }),
      invalidatesTags: ['Dataset'],
    }),
    pushTokens: build.query<PushToken[], string>({
      query: (id) => `datasets/${id}/tokens`,
      providesTags: ['Token'],
    }),
    /** Makes a token, which is told this once. */
    makeToken: build.mutation<PushToken & { token: string }, { id: string; name: string }>({
      query: ({ id, name }) => ({ url: `datasets/${id}/tokens`, method: 'POST', body: { name } }),
      invalidatesTags: ['Token'],
    }),
    removeToken: build.mutation<void, { id: string; token: string }>({
      query: ({ id, token }) => ({ url: `datasets/${id}/tokens/${token}`, method: 'DELETE' }),
      invalidatesTags: ['Token'],
    }),
    /** What rows that wait would change. */
    refreshPreview: build.query<RefreshPreview, string>({
      query: (id) => `imports/${id}/preview`,
      keepUnusedDataFor: 0,
    }),
    takeRows: build.mutation<ImportView, string>({
      query: (id) => ({ url: `imports/${id}/take`, method: 'POST' }),
      invalidatesTags: ['Dataset'],
    }),
    /** The versions of a dataset's rows; another `version` of it asks anew. */
    dataVersions: build.query<DataVersion[], { id: string; version: number }>({
      query: ({ id }) => `datasets/${id}/versions`,
    }),
    dataChanges: build.query<DataChange, { id: string; from: number; to: number }>({
      query: ({ id, from, to }) => `datasets/${id}/versions/changes?from=${from}&to=${to}`,
    }),
    goBack: build.mutation<DataVersion[], { id: string; version: number }>({
      query: ({ id, version }) => ({
        url: `datasets/${id}/versions/back`,
        method: 'POST',
        body: { version },
      }),
      invalidatesTags: ['Dataset'],
    }),
  }),
});

export const {
  useBoardsQuery,
  useVersionsQuery,
  useVersionQuery,
  useNameVersionMutation,
  usePublishMutation,
  useScratchMutation,
  useDeletedBoardsQuery,
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
  useRenameDatasetMutation,
  useDeleteDatasetMutation,
  useRestoreDatasetMutation,
  useRenameFieldMutation,
  useAddFieldMutation,
  useChangeFieldMutation,
  useDropFieldMutation,
  useLookupPreviewQuery,
  useAddLookupsMutation,
  useFieldUsesQuery,
  useFieldShapeQuery,
  useRetypePreviewQuery,
  useRetypeMutation,
  useRowsQuery,
  useRejectsQuery,
  useConnectionsQuery,
  useAddConnectionMutation,
  useChangeConnectionMutation,
  useRemoveConnectionMutation,
  useRemoteTablesQuery,
  useRemoteTableQuery,
  usePlaceTableMutation,
  useLookAgainMutation,
  useImportStateQuery,
  useAnswerImportMutation,
  useCancelImportMutation,
  useRefreshPreviewQuery,
  useCopyTableMutation,
  useFetchRowsMutation,
  useSetScheduleMutation,
  useRunScheduleMutation,
  useRemoveScheduleMutation,
  usePushTokensQuery,
  useMakeTokenMutation,
  useRemoveTokenMutation,
  useTakeRowsMutation,
  useDataVersionsQuery,
  useDataChangesQuery,
  useGoBackMutation,
} = editingApi;
