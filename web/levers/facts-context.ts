import { createContext, useContext } from 'react';
import type { KnownFacts } from './use-facts';

/** What is known of the levers of the board that is open. */
export const FactsContext = createContext<KnownFacts>({ facts: {}, ready: false, problems: {} });
export const useKnownFacts = () => useContext(FactsContext);
