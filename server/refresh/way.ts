import type { RefreshMode } from '@sorvik/core/board/api-types';

/** How rows come to a dataset; `by` is the key of the field by which rows are replaced. */
export interface Way {
  mode: RefreshMode;
  by: string | undefined;
}

export const refreshModes: RefreshMode[] = ['replace', 'append', 'merge'];
