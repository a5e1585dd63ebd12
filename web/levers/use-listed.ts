import { skipToken } from '@reduxjs/toolkit/query/react';
import { cubeQuery } from '@sorvik/core/cube/cube-request';
import { rollUp } from '@sorvik/core/cube/roll-up';
import { fieldOf } from '@sorvik/core/dataset';
import type { ListedValue } from '@sorvik/core/levers/lever-kind';
import type { Lever } from '@sorvik/core/levers/registry';
import { compareKeys, type FieldType } from '@sorvik/core/values';
import { useMemo } from 'react';
import { cubeAt, problemText, useCubeQuery, useDatasetQuery } from '../app/api';

export interface Listed {
  values: ListedValue[] | undefined;
  type: FieldType | undefined;
  problem: string | undefined;
}

/** The values a lever's list offers, in their natural order, with the rows that carry each. */
export function useListed(lever: Lever): Listed {
  const { data: dataset, error: datasetError } = useDatasetQuery(lever.dataset);
  const field = dataset && fieldOf(dataset, lever.field);
  const request = {
    keys: [{ field: lever.field, grain: lever.grain }],
    atoms: [{ aggregate: 'count' as const }],
  };
  const { currentData: address, error } = useCubeQuery(
    field ? { dataset: lever.dataset, query: cubeQuery(request, dataset.version) } : skipToken,
  );
  const cube = cubeAt(address);
  const values = useMemo(() => {
    if (!cube) return undefined;
    const { categories, atoms } = rollUp(
      cube,
      { field: lever.field, grain: lever.grain },
      [{ aggregate: 'count' }],
      null,
    );
    return categories
      .map((value, i) => ({ value, count: atoms[0]![i]! }))
      .filter(({ value }) => value !== null)
      .sort((a, b) => compareKeys(a.value, b.value));
  }, [cube, lever.field, lever.grain]);
  const problem = datasetError
    ? problemText(datasetError)
    : dataset && !field
      ? `The dataset has no field "${lever.field}" any more.`
      : error
        ? problemText(error)
        : undefined;
  return { values, type: field?.type, problem };
}
