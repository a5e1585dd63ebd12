import type { Sources } from '../../sources/sources';
import { type AllowedAddresses, addressOrigin } from './address';
import type { Origin } from './origin';
import { tableOrigin } from './table';

/** All places that rows are fetched from, as one. The last kind takes what is of no other one. */
export function originsOf(sources: Sources, allowed: AllowedAddresses): Omit<Origin, 'isMine'> {
  const kinds = [tableOrigin(sources), addressOrigin(allowed)];
  const kindOf = (address: string) => kinds.find(({ isMine }) => isMine(address))!;
  return {
    check: (address) => kindOf(address).check(address),
    fetch: (address, known, signal) => kindOf(address).fetch(address, known, signal),
  };
}
