/** What the theme says of an element and a file has to say itself: the property, and what it is of itself. */
const written: [property: string, usual: string][] = [
  ['fill', 'rgb(0, 0, 0)'],
  ['fill-opacity', '1'],
  ['stroke', 'none'],
  ['stroke-width', '1px'],
  ['stroke-dasharray', 'none'],
  ['stroke-linecap', 'butt'],
  ['stroke-linejoin', 'miter'],
  ['opacity', '1'],
  ['paint-order', 'normal'],
  ['font-size', ''],
  ['font-weight', '400'],
  ['font-style', 'normal'],
];
const dropped = ['class', 'role', 'aria-hidden', 'aria-label', 'aria-selected', 'tabindex', 'style'];
/** So many elements are looked at in one step. */
const atOnce = 400;

/** The value of a property of one element, as the theme has it; empty where it says nothing. */
export type StyleOf = (element: Element) => (property: string) => string;

/**
 * Writes what the theme says of a drawing into its elements, and takes out what is not seen: then it needs no theme. In
 * steps of a few hundred elements, between which something else can be done.
 */
export function* ownStyles(svg: SVGSVGElement, styleOf: StyleOf): Generator<void, void> {
  const elements = [...svg.querySelectorAll<SVGElement>('*')];
  const unseen: Element[] = [];
  const fits: (() => void)[] = [];
  for (const [i, element] of elements.entries()) {
    if (i % atOnce === atOnce - 1) yield;
    const style = styleOf(element);
    if (style('display') === 'none' || style('visibility') === 'hidden') {
      unseen.push(element);
      continue;
    }
    const isText = element.localName === 'text';
    const own = written
      .filter(([property]) => isText || !property.startsWith('font'))
      .map(([property, usual]) => [property, style(property), usual] as const)
      .filter(([, value, usual]) => value !== usual && value !== '');
    const translate = style('translate');
    const fontSize = Number.parseFloat(style('font-size'));
    // Nothing is changed before all has been read: the theme goes by classes.
    fits.push(() => {
      for (const name of dropped) element.removeAttribute(name);
      // Hatches and the window of the plot are named by what uses them.
      if (!/pattern|clipPath/.test(element.localName)) element.removeAttribute('id');
      if (element.localName !== 'g') for (const [name, value] of own) element.setAttribute(name, value);
      if (translate && translate !== 'none') {
        const [x = '0', y = '0'] = translate.replaceAll('px', '').split(' ');
        element.setAttribute('transform', `translate(${x} ${y}) ${element.getAttribute('transform') ?? ''}`);
      }
      if (isText) element.setAttribute('dy', (fontSize * 0.35).toFixed(2));
    });
  }
  for (const element of unseen) element.remove();
  for (const fit of fits) fit();
}
