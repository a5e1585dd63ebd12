import type { Positions } from '@sorvik/core/levers/lever-kind';
import { createContext } from 'react';

/** Positions that levers show and move instead of the board's. */
export interface OwnPositions {
  now: Positions;
  move(lever: string, position: unknown): void;
  reset(lever: string): void;
}

export const PositionsContext = createContext<OwnPositions | null>(null);
