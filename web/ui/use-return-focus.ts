import { useCallback, useEffect, useRef } from 'react';

/**
 * Gives the focus back to what had it when this came, unless something else has it when this goes. What is returned
 * gives it back at once, for what is opened from here and will give it back in turn.
 */
export function useReturnFocus(): () => void {
  const back = useRef(document.activeElement);
  const giveBack = useCallback(() => {
    if (back.current instanceof HTMLElement) back.current.focus({ preventScroll: true });
  }, []);
  useEffect(
    () => () => {
      const { activeElement } = document;
      if (activeElement === document.body || !activeElement?.checkVisibility()) giveBack();
    },
    [giveBack],
  );
  return giveBack;
}
