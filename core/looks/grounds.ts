/** The tones a lit colour has to stand off, on each ground; the theme's own, which a test compares. */
export const grounds = [
  { name: 'light', muted: '#d8d1c4' },
  { name: 'dark', muted: '#3d444d' },
] as const;
