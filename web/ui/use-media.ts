import { useSyncExternalStore } from 'react';

/** Below this width everything stands in one column: `$one-column` of the theme. */
export const oneColumn = '(max-width: 900px)';
/** No pointer hovers, or there is little room: what shows on hover elsewhere has to be seen, in little room. */
export const noHover = `(hover: none), ${oneColumn}`;

/** Whether a media query holds now. */
export function useMedia(query: string): boolean {
  return useSyncExternalStore(
    (tell) => {
      const list = matchMedia(query);
      list.addEventListener('change', tell);
      return () => list.removeEventListener('change', tell);
    },
    () => matchMedia(query).matches,
  );
}
