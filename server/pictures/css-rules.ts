import { compile } from 'css-select';
import { generate, parse, type Rule, type Selector, walk } from 'css-tree';
import { elementAdapter } from './element-adapter';

/** What a style sheet says of some elements. */
export interface CssRule {
  matches(element: Element): boolean;
  declarations: readonly [property: string, value: string][];
}

/** How special a selector is, as one number (Selectors Level 4, section 17): ids, then classes and attributes, then names. */
function specificityOf(selector: Selector): number {
  let found = 0;
  walk(selector, (node) => {
    if (node.type === 'IdSelector') found += 10_000;
    else if (node.type === 'ClassSelector' || node.type === 'AttributeSelector') found += 100;
    else if (node.type === 'PseudoClassSelector' && node.name !== 'not') found += 100;
    else if (node.type === 'TypeSelector' || node.type === 'PseudoElementSelector') found += 1;
  });
  return found;
}

/** States that no element of a picture is in, and parts that it does not have. */
const never = /:(hover|focus|focus-visible|focus-within|active|disabled|checked)|::/;

/**
 * The rules of a style sheet in the order in which later ones win. Left out are those for some media, for states of a page, and
 * what is declared `!important`, which a picture has no use for.
 */
export function cssRules(css: string): CssRule[] {
  const found: (CssRule & { specificity: number })[] = [];
  const tree = parse(css);
  walk(tree, {
    visit: 'Rule',
    enter(rule: Rule) {
      if (this.atrule || rule.prelude.type !== 'SelectorList') return;
      const declarations: [string, string][] = [];
      for (const part of rule.block.children)
        if (part.type === 'Declaration' && !part.important)
          declarations.push([part.property, generate(part.value).trim()]);
      for (const selector of rule.prelude.children) {
        const text = generate(selector);
        if (selector.type !== 'Selector' || never.test(text)) continue;
        const matches = compile<Element, Element>(text, { adapter: elementAdapter, cacheResults: false });
        found.push({ matches, declarations, specificity: specificityOf(selector) });
      }
    },
  });
  return found.sort((a, b) => a.specificity - b.specificity);
}
