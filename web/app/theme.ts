import { useEffect, useState } from 'react';

export type Ground = 'light' | 'dark';
const key = 'sorvik-ground';

const preferred = (): Ground => {
  const kept = localStorage.getItem(key);
  if (kept === 'light' || kept === 'dark') return kept;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
};

const apply = (ground: Ground) => {
  document.documentElement.dataset.bsTheme = ground;
};
export const applyPreferredGround = () => apply(preferred());

/** The ground the page is drawn on, and a way to turn it. */
export function useGround(): [Ground, () => void] {
  const [ground, setGround] = useState<Ground>(preferred);
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
