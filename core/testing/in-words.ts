import type { Settled } from '../levers/lever-kind';
import { english } from '../messages/locale';

/** Where a lever stands, with its notice in words. */
export const inWords = <P>({ notice, ...settled }: Settled<P>) => ({
  ...settled,
  ...(notice ? { notice: notice(english) } : {}),
});
