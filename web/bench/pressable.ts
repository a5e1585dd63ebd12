import { tell } from '../ui/tell';
import type { Action } from './Palette';

const nameOf = (element: HTMLElement): string =>
  (element.getAttribute('aria-label') ?? element.textContent ?? '').trim().replace(/\s+/g, ' ');

/** What a press on something does, as a command: a word of a sentence is opened to be changed. */
const commandOf = (element: HTMLElement): string =>
  element.dataset.slot
    ? tell('bench.pressable.changeElement', { element: nameOf(element) })
    : nameOf(element);

/**
 * All that can be pressed on a page now, by its name: whatever has a button is a command, and nothing has to be listed
 * twice. Marks and values of lists are content, and no commands.
 */
export function pressable(within: ParentNode, known: ReadonlySet<string>): Action[] {
  const found = new Map<string, Action>();
  const all = within.querySelectorAll<HTMLElement>('button:not(:disabled), a[href]');
  all.forEach((element, i) => {
    const text = commandOf(element);
    const shown = element.checkVisibility?.() ?? element.offsetParent !== null;
    if (!shown || !/\p{L}{2}/u.test(text) || known.has(text) || found.has(text)) return;
    if (element.closest('[role="listbox"], [role="dialog"], [data-part~="palette"]')) return;
    found.set(text, {
      id: `press ${i}`,
      text,
      // The palette gives the focus back first.
      run: () =>
        setTimeout(() => {
          element.focus();
          element.click();
        }),
    });
  });
  return [...found.values()];
}
