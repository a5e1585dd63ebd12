const list = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** Several things in one phrase: "Edda, Vito and Wim". */
export const listed = (texts: readonly string[]): string => list.format(texts);
