import { colourMixed } from './colour-mix';
import { type CssRule, cssRules } from './css-rules';

/** Properties that an element takes from what it is in, where nothing is said of it itself. */
const inherited = new Set([
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'paint-order',
  'font-size',
  'font-weight',
  'font-style',
  'visibility',
]);

/** What properties are where nobody says anything. */
const initial: Readonly<Record<string, string>> = { fill: 'rgb(0, 0, 0)', 'font-size': '16px' };

/** What holds for one element: its own declarations, and the variables that it and what it is in have. */
interface Held {
  declared: ReadonlyMap<string, string>;
  variables: ReadonlyMap<string, string>;
}

const isVariable = (property: string) => property.startsWith('--');

/** `fill: red; --look: #fff` as pairs. */
const pairsOf = (style: string | null): [string, string][] =>
  (style ?? '')
    .split(';')
    .map((each) => each.split(/:(.*)/s))
    .filter((parts) => parts.length > 1)
    .map(([name = '', value = '']) => [name.trim(), value.trim()]);

/** Where a bracket that opens before `from` is closed. */
function closing(text: string, from: number): number {
  let depth = 1;
  for (let at = from; at < text.length; at++) {
    if (text[at] === '(') depth++;
    else if (text[at] === ')' && --depth === 0) return at;
  }
  return text.length;
}

/**
 * A value with its variables put in (CSS Custom Properties for Cascading Variables, section 3); null where one is not there
 * and nothing stands in for it.
 */
function substituted(value: string, variables: ReadonlyMap<string, string>): string | null {
  const at = value.indexOf('var(');
  if (at < 0) return value;
  const end = closing(value, at + 4);
  const [, name = '', fallback] = /^\s*(--[\w-]+)\s*(?:,(.*))?$/s.exec(value.slice(at + 4, end)) ?? [];
  const found =
    variables.get(name) ?? (fallback === undefined ? null : substituted(fallback.trim(), variables));
  if (found === null) return null;
  return substituted(value.slice(0, at) + found + value.slice(end + 1), variables);
}

/**
 * What a style sheet says of the elements of a drawing, as a browser would compute it: the cascade, what is inherited,
 * variables, and mixed colours. Rules for some media or states of the page do not hold in a picture.
 */
export class Theme {
  private readonly rules: readonly CssRule[];
  private readonly held = new WeakMap<Element, Held>();
  private readonly known = new WeakMap<Element, Map<string, string>>();

  constructor(css: string) {
    this.rules = cssRules(css);
  }

  /** The value of a property of an element; empty where nothing is said of it. */
  styleOf(element: Element, property: string): string {
    let known = this.known.get(element);
    if (!known) {
      known = new Map();
      this.known.set(element, known);
    }
    let value = known.get(property);
    if (value === undefined) {
      value = this.computed(element, property);
      known.set(property, value);
    }
    return value;
  }

  private computed(element: Element, property: string): string {
    const { declared, variables } = this.holdsFor(element);
    const said = declared.get(property) ?? element.getAttribute(property) ?? undefined;
    const value = said === undefined ? null : substituted(said, variables);
    if (value !== null && value !== 'inherit') return colourMixed(value);
    const parent = element.parentElement;
    return parent && inherited.has(property) ? this.styleOf(parent, property) : (initial[property] ?? '');
  }

  private holdsFor(element: Element): Held {
    const before = this.held.get(element);
    if (before) return before;
    const parent = element.parentElement;
    const above = parent ? this.holdsFor(parent).variables : new Map<string, string>();
    const declared = new Map<string, string>();
    for (const { matches, declarations } of this.rules)
      if (matches(element)) for (const [name, value] of declarations) declared.set(name, value);
    for (const [name, value] of pairsOf(element.getAttribute('style'))) declared.set(name, value);
    const own = [...declared].filter(([name]) => isVariable(name));
    const variables = own.length ? new Map([...above, ...own]) : above;
    // A variable that names others has their values where it is declared, not where it is used.
    for (const [name, value] of own) {
      const found = substituted(value, variables);
      if (found === null) (variables as Map<string, string>).delete(name);
      else (variables as Map<string, string>).set(name, found);
    }
    const held = { declared, variables };
    this.held.set(element, held);
    return held;
  }
}
