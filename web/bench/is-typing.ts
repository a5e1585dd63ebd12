/** Whether keys belong to a text that is being typed. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable=true]') !== null;
