import type { MutedTone } from '../board/otherwise';

/** The tones a lit colour has to stand off, on each ground; the theme's own, which a test compares. */
export const grounds: readonly { name: string; muted: Record<MutedTone, string> }[] = [
  { name: 'light', muted: { faint: '#ddd7cd', quiet: '#c8c2b6', firm: '#b5ad9e' } },
  { name: 'dark', muted: { faint: '#2f353d', quiet: '#3d444d', firm: '#4c545f' } },
];
