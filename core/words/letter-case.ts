/** A text that begins what is read. */
export const atStart = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : text);
