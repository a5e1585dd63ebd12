import { fieldOf } from '@sorvik/core/data/dataset';
import type { KeyValue } from '@sorvik/core/data/values';
import type { LeverFacts } from '@sorvik/core/levers/lever-kind';
import { listOf, staysOnServer } from '@sorvik/core/levers/listed';
import type { PickLever } from '@sorvik/core/levers/pick';
import { keyText } from '@sorvik/core/words/key-text';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useLazyFieldValuesQuery } from '../app/api';
import { useLanguage } from '../ui/language';
import { hasWords } from '../ui/use-combobox';
import { useSettledText } from './use-long-list';

export interface PickRow {
  value: KeyValue;
  count: number;
  text: string;
}
export interface GroupRow {
  group: KeyValue;
  text: string;
  /** All values of the group that are in the list now. */
  values: KeyValue[];
}

export interface PickRows {
  /** How many rows the list has now, headings of groups among them. */
  length: number;
  /** How many values there are before any search. */
  total: number;
  /** A row, or undefined while it is on its way. */
  at(index: number): PickRow | GroupRow | undefined;
  /** All values found, where the list is here. */
  found: KeyValue[] | undefined;
  /** Tells which rows are looked at, so that they are fetched. */
  look(from: number, to: number): void;
  ready: boolean;
}

const pageSize = 200;
/** So many rows are in sight without scrolling. */
const glance = 7;

const pickedFirst = <Item extends { value: KeyValue }>(
  items: readonly Item[],
  first: ReadonlySet<KeyValue>,
) => [...items.filter(({ value }) => first.has(value)), ...items.filter(({ value }) => !first.has(value))];

/** The rows of a list that is here, searched and grouped. */
function useHere(
  lever: PickLever,
  facts: LeverFacts | undefined,
  search: string,
  first: ReadonlySet<KeyValue>,
): PickRows | null {
  const { locale } = useLanguage();
  const list = listOf(facts, lever, lever.groupBy);
  const type = facts && fieldOf(facts.dataset, lever.field)?.type;
  const groupType = facts && lever.groupBy ? fieldOf(facts.dataset, lever.groupBy)?.type : undefined;
  const items = useMemo(
    () => list?.map((item) => ({ ...item, text: keyText(item.value, locale, type, lever.grain) })),
    [list, type, lever.grain, locale],
  );
  return useMemo(() => {
    if (!items) return null;
    const wanted = search.trim().toLocaleLowerCase();
    // In groups, and in what is seen at one glance, everything has its place.
    const ordered = lever.groupBy === undefined && items.length > glance ? pickedFirst(items, first) : items;
    const found = wanted ? ordered.filter(({ text }) => hasWords(text, wanted)) : ordered;
    const rows: (PickRow | GroupRow)[] = [];
    let group: GroupRow | undefined;
    for (const item of found) {
      if (lever.groupBy !== undefined && (!group || group.group !== item.group)) {
        group = {
          group: item.group ?? null,
          text: keyText(item.group ?? null, locale, groupType),
          values: [],
        };
        rows.push(group);
      }
      group?.values.push(item.value);
      rows.push(item);
    }
    return {
      length: rows.length,
      total: items.length,
      at: (index) => rows[index],
      found: found.map(({ value }) => value),
      look: () => {},
      ready: true,
    };
  }, [items, search, lever.groupBy, groupType, first, locale]);
}

/** So many values can be asked for first in one address; picks of more stay in their places. */
const mostFirst = 100;

/** The rows of a list that stays on the server, fetched page by page as they are looked at. */
function useThere(
  lever: PickLever,
  facts: LeverFacts | undefined,
  search: string,
  picked: ReadonlySet<KeyValue>,
  wanted: boolean,
): PickRows {
  const first = useMemo(() => (picked.size <= mostFirst ? [...picked].map(String) : []), [picked]);
  const { locale } = useLanguage();
  const settled = useSettledText(search);
  const [fetchPage] = useLazyFieldValuesQuery();
  const [pages, setPages] = useState<ReadonlyMap<number, PickRow[]>>(new Map());
  const [sizes, setSizes] = useState<{ total: number; found: number } | null>(null);
  const asked = useRef(new Set<number>());
  const round = useRef(0);
  const { id, version } = facts?.dataset ?? { id: '', version: 0 };
  const type = facts && fieldOf(facts.dataset, lever.field)?.type;
  const fetchAt = useCallback(
    (page: number) => {
      if (!wanted || asked.current.has(page)) return;
      asked.current.add(page);
      const mine = round.current;
      const input = {
        id,
        version,
        key: lever.field,
        search: settled,
        first,
        offset: page * pageSize,
        limit: pageSize,
      };
      void fetchPage(input, true)
        .unwrap()
        .then(({ total, found, values }) => {
          if (round.current !== mine) return;
          setSizes({ total, found });
          const rows = values.map((item) => ({ ...item, text: keyText(item.value, locale, type) }));
          setPages((last) => new Map(last).set(page, rows));
        })
        .catch(() => asked.current.delete(page));
    },
    [fetchPage, wanted, id, version, lever.field, settled, first, type, locale],
  );
  useEffect(() => {
    round.current++;
    asked.current = new Set();
    setPages(new Map());
    fetchAt(0);
  }, [fetchAt]);
  return {
    length: sizes?.found ?? 0,
    total: sizes?.total ?? 0,
    at: (index) => pages.get(Math.floor(index / pageSize))?.[index % pageSize],
    found: undefined,
    look(from, to) {
      for (let page = Math.floor(from / pageSize); page <= Math.floor(to / pageSize); page++) fetchAt(page);
    },
    ready: sizes !== null,
  };
}

/** The list of a pick lever, wherever it is; `first` are the values that stand before all others. */
export function usePickRows(
  lever: PickLever,
  facts: LeverFacts | undefined,
  search: string,
  first: ReadonlySet<KeyValue>,
): PickRows {
  const long = facts !== undefined && staysOnServer(facts.dataset, lever);
  const here = useHere(lever, facts, search, first);
  const there = useThere(lever, facts, search, first, long);
  return long ? there : (here ?? { ...there, length: 0, ready: false });
}
