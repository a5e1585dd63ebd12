import { datasetOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { type DatasetInfo, fieldOf } from '@sorvik/core/data/dataset';
import type { KeyValue } from '@sorvik/core/data/values';
import type { LeverFacts } from '@sorvik/core/levers/lever-kind';
import { staysOnServer } from '@sorvik/core/levers/listed';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import type { Facts } from '@sorvik/core/levers/settled-positions';
import { english, type Locale } from '@sorvik/core/messages/locale';
import { cubeQuery } from '@sorvik/core/pipeline/cube-request';
import { heldValues, movesByPlace } from '@sorvik/core/pipeline/lever-facts';
import { useEffect, useMemo, useRef, useState } from 'react';
import { shallowEqual } from 'react-redux';
import { api, cubeAt, problemText } from '../app/api';
import { type RootState, useAppDispatch, useAppSelector } from '../app/store';
import { say } from '../ui/say';

export interface KnownFacts {
  facts: Facts;
  /** False while something is still on its way: nothing should be drawn by half the facts. */
  ready: boolean;
  /** Why a lever's list cannot be read, by lever id. */
  problems: Readonly<Record<string, string>>;
}

interface Source {
  lever: Lever;
  dataset: DatasetInfo | undefined;
  /** The cube it reads, as a query; undefined when it needs none or cannot have one. */
  query: string | undefined;
  problem: string | undefined;
}

function sourceOf(lever: Lever, state: RootState, locale: Locale): Source | null {
  const id = datasetOf(lever);
  if (!id) return null;
  const { data: dataset, error } = api.endpoints.dataset.select(id)(state);
  if (!dataset)
    return { lever, dataset: undefined, query: undefined, problem: error && problemText(error, locale) };
  const source = kindOf(lever).source?.(lever);
  if (source && !fieldOf(dataset, source.field))
    return {
      lever,
      dataset,
      query: undefined,
      problem: say(locale, 'problem.leverField', { field: source.field }),
    };
  const request = kindOf(lever).reads?.(lever, dataset);
  return {
    lever,
    dataset,
    query: request ? cubeQuery(request, dataset.version) : undefined,
    problem: undefined,
  };
}

/** Values of long lists that were looked up on the server: whether they are in the data. */
function useLookedUp(sources: (Source | null)[]): ReadonlyMap<string, ReadonlySet<KeyValue>> {
  const dispatch = useAppDispatch();
  const [gone, setGone] = useState<ReadonlyMap<string, ReadonlySet<KeyValue>>>(new Map());
  const asked = useRef(new Set<string>());
  const wanted = useAppSelector((state) => {
    const list: string[] = [];
    for (const source of sources) {
      const dimension = source?.dataset && kindOf(source.lever).source?.(source.lever);
      if (!source?.dataset || !dimension || !staysOnServer(source.dataset, dimension)) continue;
      const values = heldValues(source.lever, state.positions.committed);
      if (values.length)
        list.push(JSON.stringify([source.lever.id, dimension.dataset, dimension.field, values]));
    }
    return list;
  }, shallowEqual);
  useEffect(() => {
    for (const text of wanted) {
      const [lever, dataset, field, values] = JSON.parse(text) as [string, string, string, KeyValue[]];
      const unknown = values.filter((value) => !asked.current.has(JSON.stringify([dataset, field, value])));
      if (!unknown.length) continue;
      for (const value of unknown) asked.current.add(JSON.stringify([dataset, field, value]));
      void dispatch(api.endpoints.absentValues.initiate({ id: dataset, key: field, values: unknown }))
        .unwrap()
        .then(({ absent }) => {
          if (absent.length)
            setGone((last) => new Map(last).set(lever, new Set([...(last.get(lever) ?? []), ...absent])));
        })
        .catch(() => {
          for (const value of unknown) asked.current.delete(JSON.stringify([dataset, field, value]));
        });
    }
  }, [wanted, dispatch]);
  return gone;
}

const none: readonly Lever[] = [];
const noCharts: readonly Chart[] = [];

/** What the data says of each lever of a board, fetched when it is not yet here. */
export function useFacts(
  levers: readonly Lever[] = none,
  charts: readonly Chart[] = noCharts,
  locale: Locale = english,
): KnownFacts {
  const dispatch = useAppDispatch();
  const datasets = [...new Set(levers.flatMap((lever) => datasetOf(lever) ?? []))].sort().join('\n');
  useEffect(() => {
    const subscriptions = datasets
      .split('\n')
      .filter(Boolean)
      .map((id) => dispatch(api.endpoints.dataset.initiate(id)));
    return () => {
      for (const { unsubscribe } of subscriptions) unsubscribe();
    };
  }, [datasets, dispatch]);

  const apiState = useAppSelector((state) => state.api);
  const sources = useMemo(
    () => levers.map((lever) => sourceOf(lever, { api: apiState } as RootState, locale)),
    [levers, apiState, locale],
  );
  const queries = [
    ...new Set(
      sources.flatMap((source) => (source?.query ? [`${datasetOf(source.lever)}\n${source.query}`] : [])),
    ),
  ].sort();
  const wanted = queries.join('\n\n');
  useEffect(() => {
    const subscriptions = wanted
      .split('\n\n')
      .filter(Boolean)
      .map((text) => {
        const [dataset = '', query = ''] = text.split('\n');
        return dispatch(api.endpoints.cube.initiate({ dataset, query }));
      });
    return () => {
      for (const { unsubscribe } of subscriptions) unsubscribe();
    };
  }, [wanted, dispatch]);

  const gone = useLookedUp(sources);
  const last = useRef<KnownFacts>({ facts: {}, ready: false, problems: {} });
  return useMemo(() => {
    const facts: Record<string, LeverFacts | undefined> = {};
    const problems: Record<string, string> = {};
    let ready = true;
    for (const source of sources) {
      if (!source) continue;
      const { lever, dataset, query, problem } = source;
      if (problem) problems[lever.id] = problem;
      if (!dataset) {
        if (!problem) ready = false;
        continue;
      }
      const found = query
        ? api.endpoints.cube.select({ dataset: dataset.id, query })({ api: apiState } as RootState)
        : undefined;
      const cube = cubeAt(found?.data);
      if (query && !cube && !problem) {
        if (found?.isError) problems[lever.id] = problemText(found.error, locale);
        else ready = false;
      }
      const before = last.current.facts[lever.id];
      const missing = gone.get(lever.id);
      const byPlace = movesByPlace(lever, charts);
      facts[lever.id] =
        before &&
        before.dataset === dataset &&
        before.cube === cube &&
        before.gone === missing &&
        (before.byPlace ?? false) === byPlace
          ? before
          : {
              dataset,
              ...(cube ? { cube } : {}),
              ...(byPlace ? { byPlace } : {}),
              ...(missing ? { gone: missing } : {}),
            };
    }
    const known: KnownFacts = {
      facts: shallowEqual(facts, last.current.facts) ? last.current.facts : facts,
      ready,
      problems: shallowEqual(problems, last.current.problems) ? last.current.problems : problems,
    };
    if (
      known.facts !== last.current.facts ||
      known.ready !== last.current.ready ||
      known.problems !== last.current.problems
    )
      last.current = known;
    return last.current;
  }, [sources, apiState, gone, charts, locale]);
}
