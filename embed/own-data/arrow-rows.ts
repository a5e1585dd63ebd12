import { tableFromIPC } from '@uwdata/flechette';

/** The rows of a table in Arrow IPC, as records. */
export const arrowRows = (bytes: Uint8Array): object[] => tableFromIPC(bytes, { useDate: true }).toArray();
