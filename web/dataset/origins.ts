import type { DatasetView } from '@sorvik/core/board/api-types';
import { datasetAt } from '@sorvik/core/data/table-address';
import { tell } from '../ui/tell';

/** What a table in place is called for people: the dataset and where its rows are. */
export const tableText = ({ name, inPlace }: DatasetView): string =>
  tell('dataset.origins.table', { name, database: inPlace?.name ?? '' });

/** An address as people read it. */
export function originText(address: string, datasets: readonly DatasetView[]): string {
  const dataset = datasetAt(address);
  if (dataset === null) return address;
  const found = datasets.find(({ id }) => id === dataset);
  return found ? tableText(found) : tell('dataset.origins.goneTable');
}
