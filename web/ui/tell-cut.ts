/**
 * Gives what is cut off by its box, with an ellipsis, its whole text as a tooltip, when it is pointed at or reached by
 * the keyboard. Returns how to end it.
 */
export function tellCut(): () => void {
  const look = ({ target }: Event) => {
    if (!(target instanceof HTMLElement)) return;
    for (const each of [target, ...target.querySelectorAll<HTMLElement>(':scope > span')]) {
      if (each.title && each.dataset.cut === undefined) continue;
      const isCut = each.scrollWidth > each.clientWidth + 1;
      const text = each instanceof HTMLInputElement ? each.value : each.textContent;
      if (isCut && text && getComputedStyle(each).textOverflow === 'ellipsis') {
        each.title = text;
        each.dataset.cut = '';
      } else if (each.dataset.cut !== undefined) {
        each.removeAttribute('title');
        delete each.dataset.cut;
      }
    }
  };
  document.addEventListener('pointerover', look);
  document.addEventListener('focusin', look);
  return () => {
    document.removeEventListener('pointerover', look);
    document.removeEventListener('focusin', look);
  };
}
