/** Names start small inside a sentence, but "CO2" and "ID" stay as they are. */
export const inSentence = (name: string) =>
  /^\p{Lu}\p{Ll}/u.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name;
export const atStart = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : text);
