import { useCallback, useState } from 'react';

/** So far beyond the window something counts as seen, px: it is there when it is scrolled to. */
const ahead = '300px';

/** Whether an element has come into the window, or near it; it stays so. */
export function useSeen(): { ref(element: Element | null): (() => void) | undefined; seen: boolean } {
  const [seen, setSeen] = useState(false);
  const ref = useCallback((element: Element | null) => {
    if (!element) return undefined;
    const sight = new IntersectionObserver(
      ([entry]) => {
        if (!entry?.isIntersecting) return;
        setSeen(true);
        sight.disconnect();
      },
      { rootMargin: ahead },
    );
    sight.observe(element);
    return () => sight.disconnect();
  }, []);
  return { ref, seen };
}
