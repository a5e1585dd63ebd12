import { positionsFromQuery } from '@sorvik/core/levers/positions';
import { kindOf } from '@sorvik/core/levers/registry';
import type { Visit } from '../access/needs';
import type { StoredVersion } from './store';

/** A board as a link shows it: levers that its author has fixed stand where they were, and are not there to be moved. */
export function asVisited(shown: StoredVersion, { positions, fixed }: Visit): StoredVersion {
  if (!fixed.length) return shown;
  const { levers } = shown.document;
  const { positions: held } = positionsFromQuery(levers, new URLSearchParams(positions));
  return {
    ...shown,
    document: {
      ...shown.document,
      levers: levers.map((lever) =>
        fixed.includes(lever.id)
          ? {
              ...lever,
              ...(held[lever.id] === undefined ? {} : kindOf(lever).startAt(lever, held[lever.id])),
              hidden: true,
            }
          : lever,
      ) as typeof levers,
    },
  };
}
