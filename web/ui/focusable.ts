const stops =
  'a[href], button:not(:disabled), input:not(:disabled, [type=hidden]), select:not(:disabled), textarea:not(:disabled), summary, [contenteditable=true], [tabindex]:not([tabindex="-1"])';

/** What of a part of the page Tab reaches, in the order of the page: seen, and not switched off. */
export const focusable = (within: ParentNode): HTMLElement[] =>
  [...within.querySelectorAll<HTMLElement>(stops)].filter(
    (each) => each.tabIndex >= 0 && each.checkVisibility(),
  );
