import css from './embed.scss?inline';

let made: CSSStyleSheet | null = null;

/** The styles of what lies in a shadow: one sheet for all elements, which no policy of a page has anything against. */
export function sheet(): CSSStyleSheet {
  if (!made) {
    made = new CSSStyleSheet();
    made.replaceSync(css);
  }
  return made;
}
