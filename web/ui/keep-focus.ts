import { focusable } from './focusable';

/** Where the focus was: the element, what it lay in from the inside out, and its place among what could be reached there. */
interface Stand {
  element: Element;
  around: { part: Element; place: number }[];
}

function standOf(element: Element): Stand {
  const order = focusable(document);
  let first = order.indexOf(element as HTMLElement);
  const at = first;
  const around: Stand['around'] = [];
  for (let part = element.parentElement; part; part = part.parentElement) {
    while (first > 0 && part.contains(order[first - 1]!)) first--;
    around.push({ part, place: at - first });
  }
  return { element, around };
}

const isGone = (element: Element) =>
  !element.isConnected || !element.checkVisibility() || element.matches(':disabled');

/** What can have the focus where an element was: in the nearest part that is still there, the one in its place. */
function nextTo({ around }: Stand): HTMLElement | undefined {
  for (const { part, place } of around) {
    if (isGone(part)) continue;
    const there = focusable(part);
    if (there.length) return there[Math.max(0, Math.min(place, there.length - 1))];
  }
  return undefined;
}

/**
 * Keeps the focus in the page when what has it is removed, hidden or switched off: it goes to what took the place of
 * that. Otherwise a person at the keyboard would be back at the top of the page. Returns how to end it.
 */
export function keepFocus(): () => void {
  let stand: Stand | null = null;
  let due = 0;
  const onFocusIn = ({ target }: FocusEvent) => {
    stand = target instanceof Element && target !== document.body ? standOf(target) : null;
  };
  const look = () => {
    due = 0;
    const { activeElement } = document;
    const lost = activeElement === document.body || activeElement === stand?.element;
    if (stand && lost && isGone(stand.element)) nextTo(stand)?.focus({ preventScroll: true });
  };
  const watch = new MutationObserver((changes) => {
    // What is hidden or switched off loses the focus only when the page is drawn; what is removed, at once.
    const mayBeLost =
      document.activeElement === document.body || changes.some(({ type }) => type === 'attributes');
    // Whoever takes the focus by what has just happened does so before the next frame.
    if (mayBeLost && stand && !due) due = requestAnimationFrame(look);
  });
  document.addEventListener('focusin', onFocusIn);
  watch.observe(document.body, {
    subtree: true,
    childList: true,
    attributes: true,
    attributeFilter: ['disabled', 'hidden'],
  });
  return () => {
    cancelAnimationFrame(due);
    document.removeEventListener('focusin', onFocusIn);
    watch.disconnect();
  };
}
