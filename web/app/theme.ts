import { useEffect, useState } from 'react';
import { visit } from './visit';

export type Ground = 'light' | 'dark';
const key = 'sorvik-ground';

const isGround = (text: string | null): text is Ground => text === 'light' || text === 'dark';

/** What the page around a frame asks for. */
let around: Ground | null = isGround(visit.theme) ? visit.theme : null;

/** What this person has chosen; a browser that keeps nothing for a frame may refuse to say. */
function chosen(): Ground | null {
  try {
    const kept = localStorage.getItem(key);
    return isGround(kept) ? kept : null;
  } catch {
    return null;
  }
}

/** What the page around wants, else what this person has chosen, else what a board asks for, else what the system has. */
const preferred = (wanted?: Ground): Ground => {
  const kept = around ?? chosen();
  if (kept) return kept;
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

/** Follows the page around a frame. */
export function wantGround(ground: Ground): void {
  around = ground;
  apply(ground);
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
