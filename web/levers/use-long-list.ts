import { skipToken } from '@reduxjs/toolkit/query/react';
import { fieldOf } from '@sorvik/core/data/dataset';
import type { ChoiceItem } from '@sorvik/core/levers/choice';
import type { LeverFacts } from '@sorvik/core/levers/lever-kind';
import { staysOnServer } from '@sorvik/core/levers/listed';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { keyText } from '@sorvik/core/words/key-text';
import { useEffect, useState } from 'react';
import { useFieldValuesQuery } from '../app/api';
import { useLanguage } from '../ui/language';

const typingDelay = 150;

/** A text a moment after it stopped changing. */
export function useSettledText(text: string): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), typingDelay);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}

/** The first values that a search finds in a list that stays on the server; undefined for lists that are here. */
export function useLongList(
  lever: Lever,
  facts: LeverFacts | undefined,
  search: string,
  wanted: boolean,
): { items: ChoiceItem[]; total: number; found: number } | undefined {
  const source = kindOf(lever).source?.(lever);
  const { locale } = useLanguage();
  const settled = useSettledText(search);
  const long = facts && source && staysOnServer(facts.dataset, source);
  const { data } = useFieldValuesQuery(
    long && wanted
      ? {
          id: facts.dataset.id,
          key: source.field,
          search: settled,
          offset: 0,
          limit: 300,
          version: facts.dataset.version,
        }
      : skipToken,
  );
  if (!long) return undefined;
  const type = fieldOf(facts.dataset, source.field)?.type;
  return {
    items: (data?.values ?? []).map(({ value }) => ({ value, label: keyText(value, locale, type) })),
    total: data?.total ?? 0,
    found: data?.found ?? 0,
  };
}
