import type { DatasetView } from '@sorvik/core/board/api-types';
import { tell } from '../ui/tell';

/** How the address of a table in place begins; what follows is the dataset that is a name for it. */
const scheme = 'dataset:';

export const tableAddress = ({ id }: Pick<DatasetView, 'id'>): string => scheme + id;
export const isTable = (address: string): boolean => address.startsWith(scheme);

/** What a table in place is called for people: the dataset and where its rows are. */
export const tableText = ({ name, inPlace }: DatasetView): string =>
  tell('dataset.origins.table', { name, database: inPlace?.name ?? '' });

/** An address as people read it. */
export function originText(address: string, datasets: readonly DatasetView[]): string {
  if (!isTable(address)) return address;
  const found = datasets.find((each) => tableAddress(each) === address);
  return found ? tableText(found) : tell('dataset.origins.goneTable');
}
