/** How the address of a table in place begins; what follows is the dataset that is a name for it. */
const scheme = 'dataset:';

/** The address from which the rows of a table in place are fetched. */
export const tableAddress = (dataset: string): string => scheme + dataset;

/** The dataset that an address of a table in place names; null where it is no such address. */
export const datasetAt = (address: string): string | null =>
  address.startsWith(scheme) ? address.slice(scheme.length) : null;
