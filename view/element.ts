import { partName } from './part-name';

/** An element with a class. */
export function element<Name extends keyof HTMLElementTagNameMap>(
  name: Name,
  className: string,
  ...children: HTMLElement[]
): HTMLElementTagNameMap[Name] {
  const made = document.createElement(name);
  made.className = className;
  if (className) made.dataset.part = partName(className);
  made.append(...children);
  return made;
}
