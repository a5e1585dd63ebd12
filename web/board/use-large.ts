import { useCallback, useEffect, useState } from 'react';

/** The chart that has the whole window, if one has: Esc gives the window back. */
export function useLarge(): { large: string | null; enlarge(chart: string | null): void } {
  const [large, setLarge] = useState<string | null>(null);
  useEffect(() => {
    if (!large) return;
    const onKeyDown = (event: KeyboardEvent) => {
      // Whatever is open over the chart closes first.
      if (event.key === 'Escape' && !event.defaultPrevented && !document.querySelector('.popover'))
        setLarge(null);
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, [large]);
  return { large, enlarge: useCallback((chart) => setLarge(chart), []) };
}
