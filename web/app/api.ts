import { createApi, fetchBaseQuery, QueryStatus, retry } from '@reduxjs/toolkit/query/react';
import type { DatasetView, FieldValues, SavedBoard, ShownBoard } from '@sorvik/core/board/api-types';
import type { Cube } from '@sorvik/core/data/cube';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import type { KeyValue } from '@sorvik/core/data/values';
import { english, type Locale } from '@sorvik/core/messages/locale';
import { say, type WebMessage } from '../ui/say';
import { shut } from './door-slice';
import { visit } from './visit';

/**
 * Cubes by their address. They are typed arrays, which have no place in the store; the store only knows that an
 * address has been fetched, and drops the cube here when nothing shows it any more.
 */
const cubes = new Map<string, Cube>();
export const cubeAt = (address: string | undefined): Cube | undefined =>
  address ? cubes.get(address) : undefined;

/** What viewers can meet, by the type of the problem document: those have messages in every language. */
const problemMessages: Readonly<Record<string, WebMessage>> = {
  '/problems/not-found': 'problem.notFound',
  '/problems/database-not-available': 'problem.database',
  '/problems/took-too-long': 'problem.tooLong',
  '/problems/too-many-combinations': 'problem.combinations',
  '/problems/source-not-reached': 'problem.sourceAway',
  '/problems/source-certificate': 'problem.sourceRefuses',
  '/problems/source-refused': 'problem.sourceRefuses',
  '/problems/source-too-slow': 'problem.sourceSlow',
  '/problems/source-failed': 'problem.sourceAway',
  '/problems/source-has-changed': 'problem.sourceChanged',
};

/** What went wrong, from a problem document or from a request that got no answer. The server itself speaks English. */
export function problemText(error: unknown, locale: Locale = english): string {
  const { data, status } = (error ?? {}) as { data?: { detail?: string; type?: string }; status?: unknown };
  const known = problemMessages[data?.type ?? ''];
  if (data?.detail && (locale.language === 'en' || !known)) return data.detail;
  if (known) return say(locale, known);
  return say(locale, status === 'FETCH_ERROR' ? 'problem.noAnswer' : 'problem.unknown');
}

/** The rows were changed since the page asked what they are: it asks again, and then for what they are now. */
export const isOutdated = (error: unknown): boolean =>
  (error as { data?: { type?: string } } | undefined)?.data?.type === '/problems/dataset-has-changed';

/** Whoever asked has broken it off. */
export const isAborted = (error: unknown): boolean =>
  (error as { name?: string } | undefined)?.name === 'AbortError';

/**
 * Nobody gave an answer: not the server, not its database, or not one of somebody else's. Charts go on when there is one. A
 * database that is too slow is left in peace.
 */
export const isAway = (error: unknown): boolean => {
  const { status, data } = (error ?? {}) as { status?: unknown; data?: { type?: string } };
  return (
    status === 'FETCH_ERROR' || status === 503 || /^\/problems\/source-(?!too-slow)/.test(data?.type ?? '')
  );
};
/** So long after there was none it is asked again, ms. */
export const untilAskedAgain = 10_000;

/** Tries, and the time between them, ms: a database that is started again takes a second or two. */
const tries = 6;
const between = 700;

/** Whoever came by a link in the address names it. In a frame it is all that counts: nothing else that the browser keeps. */
const asked = {
  baseUrl: '/api',
  ...(visit.link === null ? {} : { headers: { 'sorvik-link': visit.link } }),
  ...(visit.link !== null && visit.embedded ? { credentials: 'omit' as const } : {}),
};

/** Reads again while the server says that its database is not there; what changes something is sent once. */
const patientQuery = retry(fetchBaseQuery(asked), {
  retryCondition: (error, _args, { attempt, baseQueryApi }) =>
    (error as { status?: unknown }).status === 503 && baseQueryApi.type === 'query' && attempt < tries,
  backoff: (attempt) => new Promise((go) => setTimeout(go, between * Math.min(3, attempt))),
});

/** Where somebody has to be signed in and nobody is, the page says so in place of whatever it was to show. */
const query: typeof patientQuery = async (args, baseQueryApi, more) => {
  const result = await patientQuery(args, baseQueryApi, more);
  const { status, data } = (result.error ?? {}) as { status?: unknown; data?: { type?: string } };
  // Nobody can sign in in a frame.
  if (status === 401 && data?.type === '/problems/sign-in' && !visit.embedded) baseQueryApi.dispatch(shut());
  return result;
};

/** Has the page find out what a dataset is now, where an answer says that it has changed. */
const askAgain = async (
  _asked: unknown,
  { dispatch, queryFulfilled }: { dispatch(action: unknown): unknown; queryFulfilled: Promise<unknown> },
) => {
  await queryFulfilled.catch(({ error }: { error: unknown }) => {
    if (isOutdated(error)) dispatch(api.util.invalidateTags(['Dataset']));
  });
};

interface CubeAddress {
  dataset: string;
  query: string;
}

export const api = createApi({
  reducerPath: 'api',
  baseQuery: query,
  tagTypes: ['Board', 'Dataset', 'Version', 'Deleted', 'Connection', 'Import', 'Token'],
  endpoints: (build) => ({
    board: build.query<SavedBoard, string>({ query: (id) => `boards/${id}`, keepUnusedDataFor: 0 }),
    /** What viewers see. */
    shownBoard: build.query<ShownBoard, string>({
      query: (id) => `boards/${id}/shown`,
      keepUnusedDataFor: 0,
    }),
    dataset: build.query<DatasetView, string>({ query: (id) => `datasets/${id}`, providesTags: ['Dataset'] }),
    fieldValues: build.query<
      FieldValues,
      {
        id: string;
        key: string;
        search: string;
        first?: readonly string[];
        offset: number;
        limit: number;
        version: number;
      }
    >({
      query({ id, key, search, first = [], offset, limit }) {
        const page = new URLSearchParams({ offset: String(offset), limit: String(limit) });
        if (search) page.set('search', search);
        for (const value of first) page.append('first', value);
        return `datasets/${id}/fields/${key}/values?${page}`;
      },
    }),
    absentValues: build.mutation<{ absent: KeyValue[] }, { id: string; key: string; values: KeyValue[] }>({
      query: ({ id, key, values }) => ({
        url: `datasets/${id}/fields/${key}/absent`,
        method: 'POST',
        body: { values },
      }),
    }),
    /** How many cells a cube would have. */
    cubeSize: build.query<{ cells: number }, CubeAddress>({
      query: ({ dataset, query }) => `datasets/${dataset}/cube/size?${query}`,
      onQueryStarted: askAgain,
    }),
    /** Fetches a cube; the answer is its address, for `cubeAt`. */
    cube: build.query<string, CubeAddress>({
      query: ({ dataset, query }) => ({
        url: `datasets/${dataset}/cube?${query}`,
        responseHandler: async (response) => {
          if (!response.ok) return response.json();
          const address = `${dataset}?${query}`;
          const version = Number(new URLSearchParams(query).get('version'));
          const cube = cubeFromArrow(new Uint8Array(await response.arrayBuffer()));
          cubes.set(address, { ...cube, version });
          return address;
        },
      }),
      async onQueryStarted(asked, lifecycle) {
        const { dispatch, getCacheEntry, queryFulfilled } = lifecycle;
        await askAgain(asked, lifecycle);
        await queryFulfilled.catch(({ error }: { error: unknown }) => {
          if (!isAway(error)) return;
          setTimeout(() => {
            if (getCacheEntry().status === QueryStatus.rejected)
              void dispatch(api.endpoints.cube.initiate(asked, { subscribe: false, forceRefetch: true }));
          }, untilAskedAgain);
        });
      },
      async onCacheEntryAdded({ dataset, query }, { cacheEntryRemoved }) {
        await cacheEntryRemoved;
        cubes.delete(`${dataset}?${query}`);
      },
    }),
  }),
});

export const {
  useBoardQuery,
  useShownBoardQuery,
  useDatasetQuery,
  useFieldValuesQuery,
  useLazyFieldValuesQuery,
  useAbsentValuesMutation,
  useCubeQuery,
  useCubeSizeQuery,
} = api;
