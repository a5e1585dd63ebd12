/** A text in an attribute of HTML. */
const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');

/** The attributes of an element of HTML, as they are written. */
export const attributes = (said: Readonly<Record<string, string>>): string =>
  Object.entries(said)
    .map(([name, text]) => `${name}="${escaped(text)}"`)
    .join(' ');
