import { createContext, useContext, useEffect, useState } from 'react';

/** Which text is being edited, in a spelling of its own; null where nothing is remembered. */
export const TypedPlace = createContext<string | null>(null);

const typed = new Map<string, string>();

/**
 * What was typed into this place before and is not what stands there now: Esc takes an edit back, but hours of thought
 * in a formula must not go with it. Undefined where there is nothing of the kind.
 */
export function useTypedBefore(text: string): string | undefined {
  const place = useContext(TypedPlace);
  const [first] = useState(text);
  const [before] = useState(() => (place === null ? undefined : typed.get(place)));
  useEffect(() => {
    if (place !== null && text !== first && text.trim()) typed.set(place, text);
  }, [place, text, first]);
  return before !== first ? before : undefined;
}
