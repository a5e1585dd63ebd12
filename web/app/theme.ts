import { useEffect, useState } from 'react';

export type Ground = 'light' | 'dark';
const key = 'sorvik-ground';

/** What this person has chosen, else what a board asks for, else what the system has. */
const preferred = (wanted?: Ground): Ground => {
  const kept = localStorage.getItem(key);
  if (kept === 'light' || kept === 'dark') return kept;
  if (wanted) return wanted;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
};

const apply = (ground: Ground) => {
  document.documentElement.dataset.bsTheme = ground;
};
export function applyPreferredGround(): void {
  apply(preferred());
  // Paper is light, whatever the screen is.
  let onScreen: Ground = preferred();
  addEventListener('beforeprint', () => {
    onScreen = document.documentElement.dataset.bsTheme === 'dark' ? 'dark' : 'light';
    apply('light');
  });
  addEventListener('afterprint', () => apply(onScreen));
}

/** While a board is shown, the ground it asks for, unless the viewer has chosen one. */
export function useBoardGround(wanted: Ground | undefined): void {
  useEffect(() => {
    apply(preferred(wanted));
    return () => apply(preferred());
  }, [wanted]);
}

/** The ground the page is drawn on, and a way to turn it. */
export function useGround(): [Ground, () => void] {
  const [ground, setGround] = useState<Ground>(() => preferred());
  useEffect(() => apply(ground), [ground]);
  return [
    ground,
    () => {
      const next = ground === 'light' ? 'dark' : 'light';
      localStorage.setItem(key, next);
      setGround(next);
    },
  ];
}
