import type { Options } from 'css-select';

type Adapter = NonNullable<Options<Element, Element>['adapter']>;

const childrenOf = (element: Element): Element[] => [...element.children];

/** How selectors are matched against elements of a document. */
export const elementAdapter: Adapter = {
  isTag: (node): node is Element => node.nodeType === 1,
  getAttributeValue: (element, name) => element.getAttribute(name) ?? undefined,
  hasAttrib: (element, name) => element.hasAttribute(name),
  getChildren: childrenOf,
  getName: (element) => element.localName,
  getParent: (element) => element.parentElement,
  getSiblings: (element) => (element.parentElement ? childrenOf(element.parentElement) : [element]),
  getText: (element) => element.textContent ?? '',
  removeSubsets: (elements) =>
    elements.filter((element) => !elements.some((other) => other !== element && other.contains(element))),
};
